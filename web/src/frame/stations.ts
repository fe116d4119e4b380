/** The stations that are built, in the order of work. The number is the key and stays when others join. */
export const stations = [
  { name: 'brief', title: 'Brief', key: '1' },
  { name: 'patch', title: 'Patch', key: '2' },
  { name: 'levels', title: 'Levels', key: '3' },
  { name: 'proof', title: 'Proof', key: '5' },
  { name: 'roll', title: 'Roll', key: '7' },
] as const
