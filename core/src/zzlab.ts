import * as s from '/work/main/core/src/signals'
const rateHz = 48000
interface Lobe { level: number; d: number; w: number; frame: number }
function lobes(x: Float32Array): Lobe[] {
  const out: Lobe[] = []
  let from = 0
  for (let i = 1; i <= x.length; i++) {
    if (i < x.length && (x[i]! < 0) === (x[from]! < 0)) continue
    let high = 0
    for (let k = from; k < i; k++) high = Math.max(high, Math.abs(x[k]!))
    let near = 0, half = 0
    for (let k = from; k < i; k++) { const v = Math.abs(x[k]!); if (v >= 0.93 * high) near++; if (v >= .5 * high) half++ }
    if (half >= 5 && high > 0.01) out.push({ level: 20 * Math.log10(high), d: near / half, w: half, frame: from })
    from = i
  }
  return out
}
const mean = (a: number[]) => a.reduce((s, v) => s + v, 0) / Math.max(1, a.length)
function look(name: string, x: Float32Array) {
  const l = lobes(x)
  const top = Math.max(...l.map(v => v.level))
  const at = (a: number, b: number) => l.filter(v => top - v.level >= a && top - v.level < b)
  const ref = at(4.5, 14).map(v => v.d)
  const sd = Math.sqrt(mean(ref.map(v => v * v)) - mean(ref) ** 2)
  const cols = [[0, .7], [.7, 1.4], [1.4, 2.1], [2.1, 2.8], [2.8, 4.2]].map(([a, b]) => { const q = at(a!, b!).map(v => v.d); return `${q.length}:${mean(q).toFixed(2)}` })
  console.log(name.padEnd(16), top.toFixed(1), 'ref', mean(ref).toFixed(2), sd.toFixed(2), ref.length, '|', cols.join('  '))
}
for (const seed of process.argv[2]!.split(',').map(Number)) {
  const lengthS = 6
  const sp = (pitchHz: number, levelDbfs = -20, whispered = false) => s.speech({ lengthS, rateHz, seed, levelDbfs, pitchHz, whispered }).samples
  const n = s.amplifierNoise({ lengthS, rateHz, seed: seed + 50, levelDbfs: -65 })
  const pk = (x: Float32Array) => 20 * Math.log10(x.reduce((m, v) => Math.max(m, Math.abs(v)), 0))
  const v = sp(120), w = sp(210), add = s.mixed
  console.log('peak', pk(v).toFixed(1), pk(w).toFixed(1))
  look('voice', add(v, n)); look('voice high', add(w, n)); look('whisper', add(sp(1, -30, true), n))
  look('music', add(s.music({ lengthS, rateHz, seed, levelDbfs: -20 }), n))
  look('strikes', add(s.strikes({ lengthS, rateHz, seed, levelDbfs: -20 }), n))
  look('street', add(s.streetNoise({ lengthS, rateHz, seed, levelDbfs: -30 }), n))
  look('compressed', add(s.compressed(v, -25, 4, rateHz), n))
  for (const d of [2, 4, 8]) for (const [who, x] of [['v', v], ['w', w]] as const) {
    look(`${who} flat ${d}`, add(s.cutFlat(x, pk(x) - d), n))
    look(`${who} bent2.5 ${d}`, add(s.bend(x, pk(x) - d), n))
    look(`${who} bent1.5 ${d}`, add(s.bend(x, pk(x) - d, 1.5), n))
    look(`${who} sag50 ${d}`, add(s.sag(x, pk(x) - d, 50, rateHz), n))
  }
}
