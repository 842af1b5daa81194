// What is wished of each bag that is to be built, by the bag's number: kept in this browser until it is taken back.
import { useLocalStorage } from '@vueuse/core'

export const useKeptWishes = () => useLocalStorage<Record<string, unknown>>('zinc-kite-wishes', {})
