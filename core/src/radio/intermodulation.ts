export interface Carrier {
  name: string
  carrierMhz: number
  widthKhz: number
}

/** A product of two or three carriers that falls into the channel of one that is used. */
export interface Product {
  hits: string
  from: string[]
  mhz: number
  /** Distance from the carrier that is hit, kHz. */
  offKhz: number
}

/**
 * Third-order products among transmitters that are on at once, 2a - b of two and a + b - c of three, that lie within
 * half a channel of another carrier in use; and sets that share one carrier.
 */
export function intermodulation(carriers: readonly Carrier[]): Product[] {
  const products: Product[] = []
  const test = (mhz: number, from: readonly Carrier[]) => {
    for (const hit of carriers) {
      const offKhz = Math.abs(mhz - hit.carrierMhz) * 1000
      if (!from.includes(hit) && offKhz < hit.widthKhz / 2)
        products.push({ hits: hit.name, from: from.map(({ name }) => name), mhz, offKhz })
    }
  }
  for (const a of carriers) {
    test(a.carrierMhz, [a])
    for (const b of carriers) {
      if (b === a) continue
      test(2 * a.carrierMhz - b.carrierMhz, [a, b])
      for (const c of carriers)
        // a and b change places without a difference: each pair once
        if (c !== a && c !== b && carriers.indexOf(a) < carriers.indexOf(b))
          test(a.carrierMhz + b.carrierMhz - c.carrierMhz, [a, b, c])
    }
  }
  return products
}
