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
    const { channelData, samplesDecoded, sampleRate, errors } = await this.decoder.decodeFrames([packet.data])
    if (errors.length || !samplesDecoded) throw new Refusal('a frame of it cannot be decoded')
    const data = new Float32Array(channelData.length * samplesDecoded)
    channelData.forEach((samples, channel) => data.set(samples, channel * samplesDecoded))
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
