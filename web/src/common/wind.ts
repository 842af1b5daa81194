// Where a wind comes from, in words and on a dial.

const FROM = [
  'from straight ahead',
  'from ahead right',
  'from the right',
  'from behind right',
  'from behind',
  'from behind left',
  'from the left',
  'from ahead left',
] as const

/** A direction as 0 up to 360 degrees. */
export function turned(deg: number): number {
  return ((deg % 360) + 360) % 360
}

/** Where a wind from `deg` (clockwise from straight ahead) comes from, in words. */
export function windFrom(deg: number): string {
  return FROM[Math.round(turned(deg) / 45) % 8] ?? FROM[0]
}

/** Direction of a point from the middle of a dial, degrees clockwise from the top, in whole steps. */
export function pointedAt(right: number, up: number, step: number): number {
  return turned(Math.round((Math.atan2(right, up) * 180) / Math.PI / step) * step)
}
