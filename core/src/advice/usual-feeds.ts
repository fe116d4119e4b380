/** Under its nominal level, which its loudest words reach, a feed is typically so much softer, and at its quietest, dB. */
const softerDb = { typical: 8, quietest: 20 }

const feed = (name: string, nominalDbu: number) => ({
  name,
  levelsDbu: {
    quietest: nominalDbu - softerDb.quietest,
    typical: nominalDbu - softerDb.typical,
    loudest: nominalDbu,
  },
})

/** What is usually sent, for where nobody can be asked: nominal levels of +4 dBu, of -10 dBV, and of a microphone. */
export const usualFeeds = [
  feed('a desk, at line level', 4),
  feed('a player or a projector', -8),
  feed('a feed at microphone level', -46),
]
