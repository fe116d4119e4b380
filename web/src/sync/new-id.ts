import { uuidv7 } from '@iron-hush/core/model'

/** A fresh id of our own making. */
export const newId = (): string => uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))
