// hands on what the browser hears, block by block; runs beside the sound, where nothing else of the page does

/** Globals of a worklet that the compiler does not know. */
declare class AudioWorkletProcessor {
  readonly port: MessagePort
}
declare function registerProcessor(name: string, processor: typeof AudioWorkletProcessor): void

class Ear extends AudioWorkletProcessor {
  process([input]: Float32Array[][]): boolean {
    // the same memory is filled again at once
    if (input?.length) this.port.postMessage(input.map((channel) => channel.slice()))
    return true
  }
}
registerProcessor('ear', Ear)
