/** Speech over steady noise below which a recording is hard to use, and above which nobody minds: rules of thumb, dB. */
export const poorSpeechToNoiseDb = 20
export const fairSpeechToNoiseDb = 30
