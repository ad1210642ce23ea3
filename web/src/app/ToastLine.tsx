import { usePreferences } from '../state/preferences'
import { hideToast, isUndoable, useToast } from '../state/toasts'
import { undo } from '../state/undo'

/** What was just written, by name, with its own undo. */
export function ToastLine() {
  const toast = useToast()
  const { units } = usePreferences()
  return (
    <div
      role="status"
      aria-live="polite"
      className="pointer-events-none fixed inset-x-0 bottom-[4.6rem] z-30 flex justify-center px-3 lg:justify-start lg:pl-5 print:hidden"
    >
      {toast && (
        <div
          data-toast={toast.what}
          className="pointer-events-auto flex max-w-full items-center gap-2 rounded border-2 border-ink bg-ink pl-3 text-ground"
        >
          <span className="min-w-0 truncate py-2">{toast.said}.</span>
          {isUndoable(toast) && (
            <button
              type="button"
              onClick={() => undo(toast, units)}
              className="min-h-11 shrink-0 px-3 font-bold underline underline-offset-4"
            >
              Undo
            </button>
          )}
          <button
            type="button"
            aria-label="Hide this"
            onClick={hideToast}
            className="min-h-11 min-w-11 shrink-0"
          >
            ×
          </button>
        </div>
      )}
    </div>
  )
}
