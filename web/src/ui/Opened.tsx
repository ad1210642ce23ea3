import { useState, type ReactNode } from 'react'
import type { Loadable, Opened } from '../api/types'
import { Card } from './Card'
import { LoadState } from './LoadState'

type ButtonProps = {
  label: string
  onOpen: () => void
  className?: string
  children: ReactNode
}

/** A number that can be opened: dotted underneath, a button for finger and keyboard. */
export function OpenButton({ label, onOpen, className = '', children }: ButtonProps) {
  return (
    <button
      type="button"
      onClick={onOpen}
      className={`inline-flex min-h-11 items-center text-left underline decoration-rule-strong decoration-dotted decoration-2 underline-offset-[0.2em] ${className}`}
    >
      {children}
      <span className="sr-only">, how it came about: {label}</span>
    </button>
  )
}

type Props = { number: Opened; className?: string; children: ReactNode }

/** A number whose working is at hand. */
export function OpenNumber({ number, className = '', children }: Props) {
  const [open, setOpen] = useState(false)
  return (
    <>
      <OpenButton label={number.label} onOpen={() => setOpen(true)} className={className}>
        {children}
      </OpenButton>
      <OpenedCard
        title={number.label}
        of={{ status: 'ready', data: number, refreshing: false }}
        open={open}
        onClose={() => setOpen(false)}
      />
    </>
  )
}

type CardProps = {
  title: string
  of: Loadable<Opened>
  open: boolean
  onClose: () => void
  children?: ReactNode
}

/** What a number opens to: what it is, its formula with today in it, inputs, sureness, source. */
export function OpenedCard({ title, of, open, onClose, children }: CardProps) {
  return (
    <Card open={open} onClose={onClose} title={title}>
      <LoadState of={of}>{(number) => <Sheet number={number} />}</LoadState>
      {children}
    </Card>
  )
}

function Sheet({ number }: { number: Opened }) {
  return (
    <div data-opened={number.key} className="flex flex-col gap-4">
      <p>
        <span className="text-[2.2rem] leading-none font-bold whitespace-nowrap">
          {number.text}
        </span>
        {number.uncertainty_text !== null && (
          <span className="ml-3 text-[1.1rem] whitespace-nowrap">
            {number.uncertainty_text}
            <span className="text-soft">, 19 times in 20</span>
          </span>
        )}
      </p>
      <p className="max-w-[60ch]">{number.meaning}</p>
      <dl className="grid grid-cols-[5.5rem_1fr] gap-x-3 gap-y-2">
        <dt className="text-soft">Formula</dt>
        <dd>{number.formula}</dd>
        <dt className="text-soft">Today</dt>
        <dd className="font-bold">{number.today}</dd>
        <dt className="text-soft">Rests on</dt>
        <dd>{number.reference}</dd>
      </dl>
      {number.inputs.length > 0 && (
        <table className="w-full border-t border-rule-strong text-left">
          <thead className="sr-only">
            <tr>
              <th>What went in</th>
              <th>Value</th>
              <th>Sure to</th>
              <th>From</th>
            </tr>
          </thead>
          <tbody>
            {number.inputs.map((input) => (
              <tr key={input.key} className="border-b border-rule align-top">
                <td className="py-1.5 pr-3">{input.label}</td>
                <td className="py-1.5 pr-3 text-right font-bold whitespace-nowrap">{input.text}</td>
                <td className="py-1.5 pr-3 whitespace-nowrap">{input.uncertainty}</td>
                <td className="py-1.5 text-soft">{input.source}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  )
}
