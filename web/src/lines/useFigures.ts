// Numbers of a form in the player's units, over ones kept in SI.
import { useUnits } from '@/api/useData'
import { type Quantity, unit } from '@/common/units'

export function useFigures() {
  const units = useUnits()
  const rounded = (x: number) => Math.round(10 * x) / 10
  const get = (si: number | null | undefined, quantity: Quantity) =>
    si == null ? null : rounded(unit(units.value, quantity).toShown(si))
  const toSi = (shown: number | null | undefined, quantity: Quantity) =>
    shown == null ? null : unit(units.value, quantity).toSi(shown)
  const symbol = (quantity: Quantity) => unit(units.value, quantity).symbol
  return { get, toSi, symbol }
}
