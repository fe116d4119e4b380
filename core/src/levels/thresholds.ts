/** Speech over steady noise under which it is hard to use, and over which nobody minds: rules of thumb, dB. */
export const poorSpeechToNoiseDb = 20
export const fairSpeechToNoiseDb = 30
