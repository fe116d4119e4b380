import type { App } from 'vue'
import { Refusal } from '@iron-hush/core/model'
import { useNotices } from '../state/notices'
import { Refused, ServerAway } from '../sync/ask'
import { isNotFetched } from '../sync/not-fetched'

const failed = 'Something failed here that should not have. What you changed is kept.'
const notFetched = 'This part of the page cannot be fetched while the server is away. Try it again then.'
/** Errors that a browser causes by itself, not our faults. */
const ofTheBrowser = ['AbortError', 'NotAllowedError', 'InvalidStateError']

/** Says it where something fails that nobody waits for: it would look as if it were still under way. */
export function tellUnexpected(app: App): void {
  app.config.errorHandler = tell
  addEventListener('unhandledrejection', ({ reason }) => tell(reason))
}

function tell(error: unknown): void {
  // the line with the server says by itself that it is away
  if (error instanceof ServerAway) return
  if (error instanceof DOMException && ofTheBrowser.includes(error.name)) return
  const notices = useNotices()
  const isSaid = (sentence: string) => notices.list.some(({ text }) => text === sentence)
  const said = isNotFetched(error) ? notFetched : isForPeople(error) ? error.message : undefined
  if (said !== undefined) return isSaid(said) ? undefined : notices.say(said)
  console.error(error)
  if (!isSaid(failed)) notices.offer(failed, 'Reload the page', () => location.reload())
}

/** Refusals are sentences that are written to be read. */
const isForPeople = (error: unknown): error is Error => error instanceof Refusal || error instanceof Refused
