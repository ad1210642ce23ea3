import type { Units } from '../api/types'
import { Kept, useKept } from './kept'

export type Theme = 'paper' | 'night'

type Preferences = { theme: Theme; units: Units; padOpen: boolean }

const preferences = new Kept<Preferences>('nudge.preferences', {
  theme: 'paper',
  units: 'ip',
  padOpen: false,
})

export const usePreferences = () => useKept(preferences)

export function setPreference<K extends keyof Preferences>(name: K, value: Preferences[K]): void {
  preferences.set({ ...preferences.get(), [name]: value })
  if (name === 'theme') document.documentElement.dataset['theme'] = value as Theme
}

export function toggleTheme(): void {
  setPreference('theme', preferences.get().theme === 'night' ? 'paper' : 'night')
}

export function toggleUnits(): void {
  setPreference('units', preferences.get().units === 'ip' ? 'si' : 'ip')
}

export function togglePad(): void {
  setPreference('padOpen', !preferences.get().padOpen)
}
