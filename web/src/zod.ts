import { z } from 'zod/v4'

// The page may not make functions from text (Content-Security-Policy). Zod would find that out by trying, with an error
// that makes the browser read all of this script once more. Built in place of `zod` everywhere: see vite.config.ts.
z.config({ jitless: true })

export { z }
