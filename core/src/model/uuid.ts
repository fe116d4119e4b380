/**
 * A UUID of version 7 (RFC 9562): the time in front, so that ids sort as they were made, then chance.
 *
 * @param milliseconds since 1970
 * @param random ten random bytes
 */
export function uuidv7(milliseconds: number, random: Uint8Array): string {
  const bytes = new Uint8Array(16)
  for (let index = 0; index < 6; index++) bytes[index] = Math.floor(milliseconds / 256 ** (5 - index)) % 256
  bytes.set(random.subarray(0, 10), 6)
  bytes[6] = (bytes[6]! & 0x0f) | 0x70
  bytes[8] = (bytes[8]! & 0x3f) | 0x80
  const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, '0')).join('')
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5')
}
