/** Controls that were moved, in a row: "Gain of Recorder from 36 dB to 40 dB". */
export const movedWords = (
  moved: readonly { partName: string; controlName: string; from: string; to: string }[],
): string =>
  moved
    .map(({ partName, controlName, from, to }) => `${controlName} of ${partName} from ${from} to ${to}`)
    .join('; ')
