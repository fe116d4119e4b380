import { Refusal } from '@iron-hush/core/model'

/** What is sent to an address must be what the address names. */
export function refuseOtherId(address: string, content: { id: string }, what: string): void {
  if (content.id !== address) throw new Refusal(`${what} was refused: its id and its address differ.`)
}
