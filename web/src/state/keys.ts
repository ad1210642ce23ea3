import { useEffect, useRef } from 'react'
import { lettersAct } from './preferences'

export type KeyAction = { key: string; shown?: string; label: string; run: () => void }

const registered = new Set<React.RefObject<KeyAction[]>>()

/** Actions of the part on screen, by key. They work whenever no field has the keyboard. */
export function useKeys(actions: KeyAction[]): void {
  const latest = useRef(actions)
  useEffect(() => {
    latest.current = actions
  })
  useEffect(() => {
    registered.add(latest)
    return () => void registered.delete(latest)
  }, [])
}

/** Every action reachable now, for the `?` card. */
export function reachableActions(): KeyAction[] {
  return [...registered].flatMap((actions) => actions.current)
}

export function startKeys(): void {
  window.addEventListener('keydown', (event) => {
    if (event.key === 'Escape' && isTyping(event.target) && !inDialog(event.target)) {
      ;(event.target as HTMLElement).blur() // the keys are keys again
      return
    }
    if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey) return
    if (isTyping(event.target) || document.querySelector('[role="dialog"][data-modal]')) return
    const action = reachableActions().findLast((one) => one.key === event.key)
    if (!action || (!lettersAct() && event.key !== '?')) return
    event.preventDefault()
    action.run()
  })
}

const inDialog = (target: EventTarget | null) =>
  target instanceof Element && target.closest('[role="dialog"]') !== null

function isTyping(target: EventTarget | null): boolean {
  if (target instanceof HTMLInputElement && target.type === 'range') return false // arrows move it
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName))
  )
}
