import { open } from 'node:fs/promises'
import { measureClip } from './src/measure'
const f = await open(process.argv[2]!)
const size = (await f.stat()).size
const source = {
  size,
  read: async (o: number, l: number) => {
    const b = new Uint8Array(Math.max(0, Math.min(l, size - o)))
    await f.read(b, 0, b.length, o)
    return b
  },
}
const t = performance.now()
const m = await measureClip(source, 'ten.wav')
console.log(
  (performance.now() - t).toFixed(0),
  'ms',
  m!.faults.map((f) => f.code),
  Math.round(process.memoryUsage().rss / 1e6),
)
