import { bySeverity, type ClipFigures, type ClipFinding, type Severity } from '../findings'
import type { Measurement } from '../model'
import { clock, signed } from '../units'
import type { Sentences } from './sentences'

const inPlaces = (places: number): string => `${places} ${places === 1 ? 'place' : 'places'}`
const seconds = (s: number): string =>
  s < 1 ? `${Math.max(1, Math.round(s * 1000))} ms` : `${s.toFixed(1)} s`

/** Where crests are pressed, by the shape they end in. */
const clipWhat: Record<ClipFigures['clip']['shape'], string> = {
  'flat at full scale': 'Peaks are cut flat at full scale',
  'flat below full scale': 'Peaks are cut flat below full scale',
  bent: 'An early amplifier overloads: peaks are bent',
  sagging: 'An overload before a coupling capacitor: cut peaks sag',
}
const clipRemedy: Record<ClipFigures['clip']['shape'], string> = {
  'flat at full scale': 'The converter or the file clipped: turn down what comes before it.',
  'flat below full scale':
    'It was cut before this recording: turn down earlier in the chain; the level here cannot fix it.',
  bent: 'Turning the record level down cannot help: put a pad or a lower output before that amplifier.',
  sagging: 'It happened before this recording: turn down what comes before the stage that overloads.',
}

const words: { [Code in keyof ClipFigures]: (figures: ClipFigures[Code]) => Sentences } = {
  clip: ({ shape, places, firstS, levelDbfs }) => ({
    what: `${clipWhat[shape]} in ${inPlaces(places)}, first at ${clock(firstS, 1)}.`,
    why: `They ${shape === 'bent' ? 'bend towards' : 'stop at'} ${signed(levelDbfs)} dBFS.`,
    remedy: clipRemedy[shape],
  }),
  hum: ({ mainsHz, levelDbfs, underSpeechDb }) => ({
    what: `Mains hum at ${mainsHz} Hz, ${signed(levelDbfs)} dBFS.`,
    why: `It is ${underSpeechDb.toFixed(0)} dB below the speech and constant.`,
    remedy: 'Look for a ground loop, an unbalanced lead beside a mains cable, or a charger in the chain.',
  }),
  wind: ({ places, firstS, levelDbfs }) => ({
    what: `Wind on the microphone in ${inPlaces(places)}, first at ${clock(firstS, 1)}.`,
    why: `Gusts reach ${signed(levelDbfs)} dBFS under 30 Hz, and take headroom from everything else.`,
    remedy: 'Put fur or foam over the microphone, turn it out of the wind, or switch its low-cut on.',
  }),
  pop: ({ places, firstS, levelDbfs }) => ({
    what: `Pops or thumps in ${inPlaces(places)}, first at ${clock(firstS, 1)}.`,
    why: `Single deep swings of ${signed(levelDbfs)} dBFS: breath on the microphone, or a knock on its stand.`,
    remedy:
      'Move it out of the line of the breath, use a pop screen or a shock mount, switch the low-cut on.',
  }),
  pumping: ({ risesDb, releaseS }) => ({
    what: `Automatic gain is on: noise rises ${risesDb.toFixed(0)} dB in the pauses.`,
    why: `It rises over ${seconds(releaseS)} and drops again with the next word.`,
    remedy:
      'Set the level by hand where the camera allows it, or feed it a louder signal so that it stays down.',
  }),
  dropout: ({ places, firstS, longestS }) => ({
    what: `The signal drops out in ${inPlaces(places)}, first at ${clock(firstS, 1)}.`,
    why: `Everything stops at once, noise too, for up to ${seconds(longestS)}: a radio mutes like this.`,
    remedy:
      'Bring the receiver nearer, clear the line of sight, change the channel, or take another recording.',
  }),
  rustle: ({ places, firstS, totalS }) => ({
    what: `Cloth or handling rustles in ${inPlaces(places)}, first at ${clock(firstS, 1)}.`,
    why: `${seconds(totalS)} in total of crackling without pitch.`,
    remedy: 'Fix the capsule and a loop of its cable so that no cloth moves over it; cover these places.',
  }),
  click: ({ places, firstS, levelDbfs }) => ({
    what: `Clicks in ${inPlaces(places)}, first at ${clock(firstS, 1)}.`,
    why: `Jumps of up to ${signed(levelDbfs)} dBFS within a few samples.`,
    remedy: 'Look for a loose plug, a switch that was turned, or two devices without a common clock.',
  }),
  'channels equal': ({ other }) => ({
    what: `Channel ${other + 1} carries the same sound as channel ${other}.`,
    why: 'They are identical to the sample, at the same level.',
    remedy: 'One of them is enough; the second is not a safety track.',
  }),
  'channels unequal': ({ other, differenceDb }) => ({
    what: `Channel ${other + 1} carries the sound of channel ${other}, ${Math.abs(differenceDb).toFixed(1)} dB ${differenceDb < 0 ? 'softer' : 'louder'}.`,
    why: 'They are identical except for the level, as with a safety track.',
    remedy: 'Use the louder one where it is clean.',
  }),
  'channels opposite': ({ other }) => ({
    what: `Channel ${other + 1} has the opposite polarity to channel ${other}.`,
    why: 'Where one rises the other falls: summed to mono, most of it disappears.',
    remedy:
      'Invert one of them before they are summed, or use only one; look for a balanced line in a stereo input.',
  }),
  'channels delayed': ({ other, delayMs }) => ({
    what: `Channel ${other + 1} carries the sound of channel ${other}, ${Math.abs(delayMs).toFixed(delayMs < 1 ? 2 : 1)} ms ${delayMs < 0 ? 'earlier' : 'later'}.`,
    why: 'Summed, they cause comb filtering.',
    remedy: 'Use one of them, or shift one before they are mixed.',
  }),
  'one channel silent': ({ other, differenceDb }) => ({
    what: `Only one of channels ${other} and ${other + 1} has sound on it.`,
    why: `Channel ${differenceDb < 0 ? other + 1 : other} is ${Math.abs(differenceDb).toFixed(0)} dB lower and has only noise.`,
    remedy: 'Look for a two-contact plug in a stereo input, a track that was not armed, or a broken lead.',
  }),
  silence: () => ({
    what: 'This channel is digital silence.',
    why: 'Every sample is zero.',
    remedy: 'Look for a wrong plug, a missing supply or a track that was not armed.',
  }),
  'low level': ({ peakDbfs, floating }) => ({
    what: `The loudest peak is only ${signed(peakDbfs)} dBFS.`,
    why: floating
      ? 'In floating point that costs nothing by itself.'
      : 'Raising it later raises the noise with it.',
    remedy: floating ? 'Raise it in the edit.' : 'Use more gain before the recording.',
  }),
}

/** Words for a finding about a clip. */
export const clipWords = ({ code, figures }: ClipFinding): Sentences =>
  // code and figures belong together: the type of the finding says so
  (words[code] as (figures: unknown) => Sentences)(figures)

/** A finding in a word or two, as a place of it is called. */
const short: { [Code in keyof ClipFigures]: string } = {
  clip: 'clipped',
  silence: 'silence',
  'low level': 'low level',
  hum: 'hum',
  wind: 'wind',
  pop: 'pop',
  pumping: 'gain rises',
  dropout: 'dropout',
  rustle: 'rustle',
  click: 'click',
  'channels equal': 'same sound',
  'channels unequal': 'same sound',
  'channels opposite': 'inverted',
  'channels delayed': 'delayed',
  'one channel silent': 'one side only',
}
export const clipWord = ({ code }: ClipFinding): string => short[code]

const marks: Record<Severity, string> = {
  dead: '\u25B2',
  harmful: '\u25B2',
  degraded: '\u25CF',
  note: '\u25CF',
}

/** A clip in a few words: the worst that was found in it, or how loud it is and how far over its noise. */
export function clipSummary(
  { channels }: Measurement,
  findings: readonly ClipFinding[],
): { mark: string; severity: Severity | 'clean'; words: string } {
  const [worst] = [...findings].sort(bySeverity)
  if (worst && worst.severity !== 'note')
    return { mark: marks[worst.severity], severity: worst.severity, words: clipWords(worst).what }
  const loudest = channels.reduce((most, each) =>
    (each.peakDbfs ?? -Infinity) > (most.peakDbfs ?? -Infinity) ? each : most,
  )
  const ratio =
    loudest.speechDbfsA !== null && loudest.noiseDbfsA !== null && loudest.pauses
      ? `, ${signed(loudest.speechDbfsA - loudest.noiseDbfsA)} dB speech-to-noise`
      : ''
  return {
    mark: '\u2713',
    severity: 'clean',
    words: `clean; peaks ${signed(loudest.peakDbfs ?? -Infinity)} dBFS${ratio}`,
  }
}

/** Container, codec, word length, rate, channels and length of a clip. */
export function clipFacts({
  container,
  codec,
  bits,
  rateHz,
  lengthS,
  stream,
  channels,
}: Measurement): string {
  const layout = stream.layout ?? `${channels.length} channel${channels.length === 1 ? '' : 's'}`
  return [
    container === codec ? container : `${container} ${codec}`,
    bits ? `${bits} bits${stream.byteOrder === 'big-endian' ? ' big-endian' : ''}` : '',
    `${Number((rateHz / 1000).toFixed(2))} kHz`,
    layout === 'several channels' ? `${channels.length} channels` : layout,
    clock(lengthS, 1),
    stream.timeCode ? `from ${stream.timeCode}` : '',
  ]
    .filter(Boolean)
    .join(', ')
}

/** Texts that the device or a person wrote into the file, each with its label. */
export const clipTexts = ({ stream: { recordedAt, texts } }: Measurement): string[] => [
  ...(recordedAt ? [`recorded ${recordedAt}`] : []),
  ...texts.map(({ label, text }) => `${label}: ${text}`),
]
