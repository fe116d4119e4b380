/** Endings of files that may hold sound: a card is full of others, as thumbnails and tables. */
const endings = [
  ...['wav', 'wave', 'bwf', 'rf64', 'aif', 'aiff', 'aifc', 'flac', 'mp3', 'aac', 'ogg', 'opus', 'm4a'],
  ...['mov', 'mp4', 'm4v', 'mkv', 'webm'],
]

/** Whether a file in a folder is worth opening, by its name; a file given by itself is always opened. */
export const mayHoldSound = (name: string): boolean =>
  endings.includes(/^[^.].*\.([^.]+)$/.exec(name)?.[1]?.toLowerCase() ?? '')

/** The same for a browser's file dialog. */
export const soundFiles = [...endings.map((ending) => `.${ending}`), 'audio/*'].join(',')
