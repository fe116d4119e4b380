const inOrder = [
  { name: 'brief', title: 'Brief' },
  { name: 'patch', title: 'Patch' },
  { name: 'levels', title: 'Levels' },
  { name: 'line-up', title: 'Line-up' },
  { name: 'proof', title: 'Proof' },
  { name: 'roll', title: 'Roll' },
] as const

/** The stations that are built, in the order of work, numbered as they stand. The number is the key. */
export const stations = inOrder.map((station, index) => ({ ...station, key: String(index + 1) }))
