import { useScene } from '../state/scene'
import { useView } from '../state/view'
import type { Printed } from './pdf'

/** The scene that is open, as a sheet names it, on the paper that is chosen here. */
export function printedNow(): Printed {
  const { openPatch, document } = useScene()
  return {
    scene: openPatch.name,
    revision: document?.revision ?? 0,
    at: new Date(),
    paper: useView().letterPaper ? 'LETTER' : 'A4',
  }
}
