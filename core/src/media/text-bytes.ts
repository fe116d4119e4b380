/** Text as UTF-8. Ours is written with it. */
export const textBytes = (text: string): Uint8Array =>
  Uint8Array.from(encodeURIComponent(text).match(/%..|./g) ?? [], (unit) =>
    unit.length > 1 ? Number.parseInt(unit.slice(1), 16) : unit.charCodeAt(0),
  )

/** Bytes as text: UTF-8, or else Latin-1, which older devices write. */
export function bytesText(bytes: Uint8Array): string {
  try {
    return decodeURIComponent(Array.from(bytes, (byte) => `%${byte.toString(16).padStart(2, '0')}`).join(''))
  } catch {
    return Array.from(bytes, (byte) => String.fromCharCode(byte)).join('')
  }
}
