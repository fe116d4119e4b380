/** Blocks of one track: a plane of samples for each of its channels. */
export type Blocks = AsyncGenerator<Float32Array[]>

/** Several tracks as one, whose channels follow each other. Ends with the first of them that ends. */
export async function* sideBySide(tracks: readonly Blocks[]): Blocks {
  const left = tracks.map((): Float32Array[] => [])
  try {
    for (;;) {
      for (const [index, track] of tracks.entries()) {
        while (!left[index]![0]?.length) {
          const { value, done } = await track.next()
          if (done || !value) return
          left[index] = value
        }
      }
      const length = Math.min(...left.map(([first]) => first!.length))
      yield left.flatMap((planes) => planes.map((plane) => plane.subarray(0, length)))
      for (const [index, planes] of left.entries())
        left[index] = planes.map((plane) => plane.subarray(length))
    }
  } finally {
    // blocks read ahead are released when the reader stops
    for (const track of tracks) await track.return(undefined)
  }
}
