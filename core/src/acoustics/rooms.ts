/** Rooms to begin with: typical volume in cubic metres and reverberation time in seconds (Sabine, furnished as usual). */
export const typicalRooms = [
  { name: 'workshop', volumeM3: 420, reverberationS: 0.9, outdoors: false },
  { name: 'furnished room', volumeM3: 60, reverberationS: 0.4, outdoors: false },
  { name: 'office', volumeM3: 120, reverberationS: 0.6, outdoors: false },
  { name: 'casting hall', volumeM3: 5200, reverberationS: 2.1, outdoors: false },
  { name: 'tuning shop', volumeM3: 260, reverberationS: 0.7, outdoors: false },
  { name: 'stone hall', volumeM3: 3000, reverberationS: 3, outdoors: false },
  { name: 'in the open', volumeM3: 1000, reverberationS: 0.1, outdoors: true },
] as const
