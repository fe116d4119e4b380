/** Typical and quietest level of a feed below its nominal level, which its loudest words reach, dB. */
const softerDb = { typical: 8, quietest: 20 }

const feed = (name: string, nominalDbu: number) => ({
  name,
  levelsDbu: {
    quietest: nominalDbu - softerDb.quietest,
    typical: nominalDbu - softerDb.typical,
    loudest: nominalDbu,
  },
})

/** Usual feeds where nobody can be asked: nominal levels of +4 dBu, -10 dBV and a microphone. */
export const usualFeeds = [
  feed('a desk, at line level', 4),
  feed('a player or a projector', -8),
  feed('a feed at microphone level', -46),
]
