/** Seconds as `2:05.3` or `1:02:05.3`; negative values keep their sign. */
export function clock(seconds: number, decimals = 0): string {
  const sign = seconds < 0 ? '-' : ''
  const scale = 10 ** decimals
  const total = Math.round(Math.abs(seconds) * scale) / scale
  const hours = Math.floor(total / 3600)
  const minutes = Math.floor((total % 3600) / 60)
  const rest = (total % 60).toFixed(decimals).padStart(decimals ? 3 + decimals : 2, '0')
  return sign + (hours ? `${hours}:${String(minutes).padStart(2, '0')}` : `${minutes}`) + `:${rest}`
}
