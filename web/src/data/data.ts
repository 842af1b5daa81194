// Sizes, times and what a file holds, in words.
import type { Holds } from '@/api/client'

const counted = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`

export function holdsText(holds: Holds): string {
  const own = holds.own_lines > 0 ? `, ${counted(holds.own_lines, 'line')} of your own` : ''
  const whose = holds.player ? `${holds.player}: ` : ''
  return `${whose}${counted(holds.discs, 'disc')}, ${counted(holds.bags, 'bag')}${own}`
}

export function bytes(n: number): string {
  return n < 1e6 ? `${Math.max(1, Math.round(n / 1e3))} kB` : `${(n / 1e6).toFixed(1)} MB`
}

/** A moment as it is told today: the hour if it was today, else the day too. */
export function when(iso: string, now = new Date()): string {
  const at = new Date(iso)
  const hour = at.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
  if (at.toDateString() === now.toDateString()) return hour
  const day = at.toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })
  return `${day}, ${hour}`
}
