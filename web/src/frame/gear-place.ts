import { useScene } from '../state/scene'

/** Address of the shelf: within the open scene, or alone if none is open. */
export function useGearPlace() {
  const scene = useScene()
  return (thing?: string) => ({
    ...(scene.document ? { name: 'gear', params: { scene: scene.document.id } } : { name: 'shelf' }),
    query: thing === undefined ? {} : { thing },
  })
}
