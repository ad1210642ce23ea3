import type { Units } from '../api/types'
import { Kept, useKept } from './kept'

export type Theme = 'paper' | 'night'

type Preferences = {
  theme: Theme
  units: Units
  padOpen: boolean
  sound: boolean
  letters: boolean
}

const NEXT_UNITS: Record<Units, Units> = { ip: 'si', si: 'si_bar', si_bar: 'ip' }

const preferences = new Kept<Preferences>(
  'nudge.preferences',
  {
    theme: 'paper',
    units: 'ip',
    padOpen: false,
    /** A tone at the end of a wait. */
    sound: false,
    /** Single letters act when no field has the keyboard. */
    letters: true,
  },
  (kept) => kept.units in NEXT_UNITS,
)

export const usePreferences = () => useKept(preferences)

export function setPreference<K extends keyof Preferences>(name: K, value: Preferences[K]): void {
  preferences.set({ ...preferences.get(), [name]: value })
  if (name === 'theme') document.documentElement.dataset['theme'] = value as Theme
}

/** Whether single letters act; Find stays on Ctrl K and the card on “?” whatever is chosen. */
export const lettersAct = () => preferences.get().letters

export function toggleTheme(): void {
  setPreference('theme', preferences.get().theme === 'night' ? 'paper' : 'night')
}

/** Field units, SI with kPa, SI with bar, and round again. */
export function nextUnits(): void {
  setPreference('units', NEXT_UNITS[preferences.get().units])
}

export const UNIT_WORDS: Record<Units, string> = { ip: '°F psi', si: '°C kPa', si_bar: '°C bar' }

export function togglePad(): void {
  setPreference('padOpen', !preferences.get().padOpen)
}
