import { FLACDecoder } from '@wasm-audio-decoders/flac'
import { AudioSample, CustomAudioDecoder, type EncodedPacket, registerDecoder } from 'mediabunny'
import { Refusal } from '../model'

/** Decodes FLAC where there are no decoders of a browser's own: in the terminal and in tests. */
class Flac extends CustomAudioDecoder {
  private decoder = new FLACDecoder()

  static override supports(codec: string): boolean {
    return codec === 'flac' && !('AudioDecoder' in globalThis)
  }
  override async init(): Promise<void> {
    await this.decoder.ready
  }
  override async decode(packet: EncodedPacket): Promise<void> {
    const found = await this.decoder.decodeFrames([packet.data])
    const { channelData, samplesDecoded, sampleRate, bitDepth, errors } = found
    // nobody awaits errors thrown here
    if (errors.length || !samplesDecoded) return this.onError(new Refusal('a frame of it cannot be decoded'))
    const data = new Float32Array(channelData.length * samplesDecoded)
    // the decoder makes the largest sample 1; for us, as for WAV, that is one step more
    const scale = 1 - 1 / 2 ** (bitDepth - 1)
    channelData.forEach((samples, channel) => {
      for (let index = 0; index < samplesDecoded; index++)
        data[channel * samplesDecoded + index] = samples[index]! * scale
    })
    this.onSample(
      new AudioSample({
        data,
        format: 'f32-planar',
        numberOfChannels: channelData.length,
        sampleRate,
        timestamp: packet.timestamp,
      }),
    )
  }
  override flush(): void {
    // each frame is whole: nothing waits
  }
  override close(): void {
    this.decoder.free()
  }
}
registerDecoder(Flac)
