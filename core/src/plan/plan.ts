import { isUnfed } from '../balance'
import { type Gear, isPiece, type Patch, type Shelf, thingsOf } from '../model'
import { beginningsOf } from './beginnings'
import type { Chain } from './chains'
import { type Begun, between, straight } from './joining'
import { balanced, hasBackup, type Planned } from './planned'
import type { Question } from './question'
import { byWorth, worthDb, worthOfBoxDb } from './worth'

/** Most chains balanced for one question; the rest are no likelier. */
const mostBalanced = 6
const mostAttenuated = 2
const mostRelieved = 2

/**
 * The best chain for a question, from what is owned where that does, else with leads, adapters and attenuators to buy,
 * else with boxes too; and the others that were tried: straight into the camera, or by a recorder, mixer or preamplifier
 * between. Empty where nothing on the shelf joins them without harm.
 */
export function planScene(question: Question, shelf: Shelf, cancelled?: () => boolean): Planned[] {
  const { camera, heardWith } = question
  const asked = new Set([camera.id, heardWith === 'built in' ? '' : heardWith.microphone.id])
  const isAtHand = ({ id, owned, kind }: Gear) => owned > 0 || kind === 'desk' || asked.has(id)
  const balancedOnce = onceEach((chain) => balanced(chain, shelf, hasBackup(chain.patch, camera.id, shelf)))
  const from = (isTaken: (gear: Gear) => boolean) =>
    planFrom(question, new Map([...shelf].filter(([, gear]) => isTaken(gear))), balancedOnce, cancelled)
  const owned = from(isAtHand)
  if (owned[0]?.dead === 0 && owned[0].tooHotDb === 0) return owned
  const leads = from((gear) => isAtHand(gear) || isPiece(gear))
  const planned = [...new Set([...owned, ...leads])].sort(byWorth)
  return planned[0]?.dead === 0 ? planned : from(() => true)
}

type BalanceChain = (chain: Chain) => Planned | undefined

/** Caches balances: chains of owned gear occur again among those with gear to buy. */
function onceEach(balanceChain: BalanceChain): BalanceChain {
  const known = new Map<string, Planned | undefined>()
  return (chain) => {
    const key = JSON.stringify(chain.patch)
    if (!known.has(key)) known.set(key, balanceChain(chain))
    return known.get(key)
  }
}

function planFrom(
  question: Question,
  from: Shelf,
  balanceChain: BalanceChain,
  cancelled?: () => boolean,
): Planned[] {
  const backedUp = (patch: Patch) => hasBackup(patch, question.camera.id, from)
  const beginnings = beginningsOf(question, from)
  const all = chainsFor(question, beginnings, from)
  const fed = all.filter(({ patch }) => !isUnfed(patch, from))
  const chains = (fed.length ? fed : all)
    .sort(
      (one, other) =>
        one.missing.length - other.missing.length ||
        one.through.length - other.through.length ||
        Number(backedUp(other.patch)) - Number(backedUp(one.patch)),
    )
    .slice(0, mostBalanced)
  const planned: Planned[] = []
  for (const chain of chains) {
    if (cancelled?.()) return []
    const found = balanceChain(chain)
    if (found) planned.push(found)
  }
  const [best] = planned.sort(byWorth)
  if (!best) return []
  return [
    ...planned,
    ...attenuated(best, question, beginnings, balanceChain),
    ...relieved(planned, best, question, beginnings, from, balanceChain),
  ].sort(byWorth)
}

/** The plain chain again, with an attenuator where the best one found is too hot. */
function attenuated(
  best: Planned,
  question: Question,
  beginnings: readonly Begun[],
  balanceChain: BalanceChain,
): Planned[] {
  if (best.tooHotDb === 0 || question.heardWith === 'built in') return []
  const lossDb = best.patch.plan.marginDb + best.tooHotDb
  return beginnings
    .flatMap((begun) => straight(begun, question.camera, { lossDb }))
    .slice(0, mostAttenuated)
    .flatMap((chain) => balanceChain(chain) ?? [])
}

/**
 * What would be clearer than the best, were it not too hot for the box that takes it or, out of that, for the camera:
 * once more with an attenuator there.
 */
function relieved(
  planned: readonly Planned[],
  best: Planned,
  question: Question,
  beginnings: readonly Begun[],
  from: Shelf,
  balanceChain: BalanceChain,
): Planned[] {
  const hot = planned
    .filter(
      ({ dead, tooHotDb, tooHotFrom, worstDb }) =>
        !dead &&
        tooHotDb > 0 &&
        tooHotFrom.length > 0 &&
        (best.tooHotDb > 0 || worstDb > best.worstDb + worthOfBoxDb),
    )
    .sort((one, other) => worthDb(other) - worthDb(one))
    .slice(0, mostRelieved)
  return hot.flatMap((plan) => {
    const used = new Set(plan.patch.boxes.map(({ gear }) => gear))
    const things = thingsOf(from).filter(({ id }) => used.has(id))
    const enoughDb = plan.patch.plan.marginDb + plainlyTooHotDb(plan, planned)
    const isOfPlan = ({ builder }: Begun) => builder.patch.boxes.every(({ gear }) => used.has(gear))
    return beginnings
      .filter(isOfPlan)
      .flatMap((begun) => {
        const isFeed = begun.outputs.some(({ box }) => plan.tooHotFrom.includes(box))
        // automatic gain in the camera raises softer input, so an attenuation equal to the excess may not suffice
        const losses = isFeed ? [enoughDb] : [enoughDb, Infinity]
        return losses.flatMap((lossDb) =>
          between(things, begun, question.camera, (box) =>
            plan.tooHotFrom.includes(box) ? { lossDb } : undefined,
          ),
        )
      })
      .flatMap((chain) => balanceChain(chain) ?? [])
  })
}

/** How far a plan is too hot where it is, were there no attenuator yet: the same boxes were planned without. */
const plainlyTooHotDb = (plan: Planned, planned: readonly Planned[]): number => {
  const placeOf = ({ patch, tooHotFrom }: Planned) =>
    JSON.stringify([patch.boxes.map(({ gear }) => gear), tooHotFrom])
  return Math.max(
    ...planned.filter((other) => placeOf(other) === placeOf(plan)).map(({ tooHotDb }) => tooHotDb),
  )
}

/** Every chain from the microphones to the camera, not yet balanced. */
function chainsFor({ camera, heardWith }: Question, beginnings: readonly Begun[], shelf: Shelf): Chain[] {
  return beginnings.flatMap((each) =>
    heardWith === 'built in'
      ? [each.builder.done()]
      : [...straight(each, camera), ...between(thingsOf(shelf), each, camera)],
  )
}
