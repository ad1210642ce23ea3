import { Notice } from './Notice'

/** What is damaged and left out of a page, by name. */
export function LeftOut({ of }: { of: readonly string[] }) {
  if (of.length === 0) return null
  return (
    <div className="my-3" data-left-out={of.length}>
      <Notice word="Left out, for it is damaged:">
        {of.slice(0, 5).join('; ')}
        {of.length > 5 && `; and ${of.length - 5} more`}. Nothing of it was changed. Run{' '}
        <code>nudge check</code> on the machine Nudge runs on.
      </Notice>
    </div>
  )
}
