import type { RouteLocationNormalizedLoaded } from 'vue-router'
import { historyPlaces } from '../state/history'

/** The history that undo acts on: takes on Roll, the shelf on Gear, shoots on the first page; none before a page is shown. */
export function placeOfRoute({ name, params }: RouteLocationNormalizedLoaded): string {
  const scene = String(params.scene ?? '')
  if (name === 'gear' || name === 'shelf') return historyPlaces.gear
  if (name === 'start') return historyPlaces.shoots
  if (!scene) return ''
  if (name === 'roll') return historyPlaces.takes(scene)
  if (name === 'proof') return historyPlaces.proofs(scene)
  return historyPlaces.scene(scene)
}
