import type { Patch } from '@iron-hush/core/model'
import { computed, type ComputedRef, ref, watch } from 'vue'
import { useQuery } from '../../frame/address'
import { useScene } from '../../state/scene'
import type { DrawnLink } from './draw-links'
import { planWidth, type useGeometry } from './geometry'
import { type Layout, placedIn } from './layout'

export type Chosen =
  | { kind: 'box' | 'link'; id: string }
  | { kind: 'end'; id: string; direction: 'in' | 'out' }
  | { kind: 'add' }

/** The selection as given by the address. */
const addressOf = (now: Chosen): string =>
  now.kind === 'add' ? 'add' : [now.kind, now.id, ...(now.kind === 'end' ? [now.direction] : [])].join(':')
function chosenFrom(text = ''): Chosen | undefined {
  const [kind, id = '', direction] = text.split(':')
  if (kind === 'add') return { kind }
  if ((kind === 'box' || kind === 'link') && id) return { kind, id }
  if (kind === 'end' && id && (direction === 'in' || direction === 'out')) return { kind, id, direction }
  return undefined
}

/** The selected part of a patch, and the position of its panel. */
export function useChosen({
  patch,
  layout,
  drawnLinks,
  geometry: { leftOf, topOf, heightOf, total },
}: {
  patch: ComputedRef<Patch>
  layout: ComputedRef<Layout>
  drawnLinks: ComputedRef<DrawnLink[]>
  geometry: ReturnType<typeof useGeometry>
}) {
  const scene = useScene()
  const placedOf = (id: string) => placedIn(layout.value, id)
  const inAddress = useQuery('open')
  const chosen = ref<Chosen | undefined>(chosenFrom(inAddress.value))
  watch(chosen, (now) => (inAddress.value = now && addressOf(now)))
  const isChosen = (kind: 'box' | 'link', id: string) => chosen.value?.kind === kind && chosen.value.id === id
  watch(
    () => scene.document?.id,
    () => (chosen.value = undefined),
  )

  /** Where the panel hangs: under what it explains, inside the sheet. */
  const panelAt = computed(() => {
    const now = chosen.value
    if (!now) return undefined
    const inside = (x: number) =>
      Math.min(Math.max(8, x), Math.max(8, total.value.width - planWidth - (now.kind === 'link' ? 800 : 420)))
    if (now.kind === 'link') {
      const drawn = drawnLinks.value.find(({ link }) => link.id === now.id)
      if (!drawn) return undefined
      const ends = [drawn.link.from.box, drawn.link.to.box].map(placedOf)
      return {
        left: inside(drawn.x - 390),
        top: Math.max(...ends.map((placed) => topOf(placed) + heightOf(placed))) + 8,
      }
    }
    if (now.kind === 'box' || now.kind === 'end') {
      const placed = layout.value.boxes.find(({ box }) => box.id === now.id)
      return placed && { left: inside(leftOf(placed)), top: topOf(placed) + heightOf(placed) + 8 }
    }
    return { left: inside(total.value.width), top: 8 }
  })
  const chosenLink = computed(() =>
    chosen.value?.kind === 'link'
      ? patch.value.links.find(({ id }) => chosen.value?.kind === 'link' && id === chosen.value.id)
      : undefined,
  )
  const chosenBox = computed(() =>
    chosen.value?.kind === 'box'
      ? patch.value.boxes.find(({ id }) => chosen.value?.kind === 'box' && id === chosen.value.id)
      : undefined,
  )
  return { chosen, isChosen, chosenLink, chosenBox, panelAt }
}
