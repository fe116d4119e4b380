import { Refusal } from '@iron-hush/core/model'

/** The id in the body must be the one in the address. */
export function refuseOtherId(address: string, content: { id: string }, what: string): void {
  if (content.id !== address) throw new Refusal(`${what} was refused: its id and its address differ.`)
}
