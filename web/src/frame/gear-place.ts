import { useScene } from '../state/scene'

/** Where the shelf is reached: beside the scene that is open, or by itself where none is. */
export function useGearPlace() {
  const scene = useScene()
  return (thing?: string) => ({
    ...(scene.document ? { name: 'gear', params: { scene: scene.document.id } } : { name: 'shelf' }),
    query: thing === undefined ? {} : { thing },
  })
}
