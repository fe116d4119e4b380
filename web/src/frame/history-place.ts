import type { RouteLocationNormalizedLoaded } from 'vue-router'
import { historyPlaces } from '../state/history'

/** What undo takes back where the person is: on Roll takes, on Gear the shelf, on the first page shoots; before any page is there, nothing. */
export function placeOfRoute({ name, params }: RouteLocationNormalizedLoaded): string {
  const scene = String(params.scene ?? '')
  if (name === 'gear' || name === 'shelf') return historyPlaces.gear
  if (name === 'start') return historyPlaces.shoots
  if (!scene) return ''
  if (name === 'roll') return historyPlaces.takes(scene)
  if (name === 'proof') return historyPlaces.proofs(scene)
  return historyPlaces.scene(scene)
}
