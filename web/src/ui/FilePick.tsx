type Props = { label: string; accept: string; camera?: boolean; onPick: (file: File) => void }

/** A button that takes a file; the same file can be picked twice. */
export function FilePick({ label, accept, camera = false, onPick }: Props) {
  return (
    <label className="inline-flex min-h-11 cursor-pointer items-center rounded border border-rule-strong bg-sheet px-4 focus-within:outline-3">
      {label}
      <input
        type="file"
        accept={accept}
        {...(camera ? { capture: 'environment' as const } : {})}
        className="sr-only"
        onChange={(event) => {
          const file = event.target.files?.[0]
          if (file) onPick(file)
          event.target.value = ''
        }}
      />
    </label>
  )
}
