import { inject } from 'vitest'

declare module 'vitest' {
  interface ProvidedContext {
    isLong: boolean
  }
}

/**
 * Tests have two forms. The short one runs with every change: fewer cases of each kind, within minutes. The long one
 * (`npm run test:long`) runs them all.
 */
export const isLong = inject('isLong')

/** How many cases, or which. */
export const cases = <T>(all: T, few: T): T => (isLong ? all : few)
