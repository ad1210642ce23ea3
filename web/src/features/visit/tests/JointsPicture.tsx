import { useState } from 'react'
import type { TimedTest } from '../../../api/types'
import { pathThrough } from '../../../drawing/frame'
import { Button } from '../../../ui/Button'

type Joints = NonNullable<TimedTest['joints']>
type State = Joints['dots'][number]['state']

const MARK: Record<State, string> = { untested: '', dry: '✓', bubbles: '!', mended: '↻' }
const WORD: Record<State, string> = {
  untested: 'not tested',
  dry: 'dry',
  bubbles: 'bubbles',
  mended: 'mended, to be tested again',
}
const STROKE = {
  unit: 'var(--rule-strong)',
  part: 'var(--ink)',
  liquid: 'var(--high)',
  vapour: 'var(--low)',
}

type Props = {
  joints: Joints
  isOpen: boolean
  onMark: (joint: string, mark: 'joint_dry' | 'joint_bubbles' | 'joint_mended') => void
}

/** The joints of the split: touch one, say whether it bubbles. */
export function JointsPicture({ joints, isOpen, onMark }: Props) {
  const [chosen, setChosen] = useState('')
  const joint = joints.dots.find((one) => one.key === chosen)
  const left = joints.dots.filter((one) => one.state !== 'dry').length
  return (
    <div className="mt-2" data-joints-left={left}>
      <div className="relative" style={{ aspectRatio: `${joints.width} / ${joints.height}` }}>
        <svg viewBox={`0 0 ${joints.width} ${joints.height}`} aria-hidden className="h-full w-full">
          {joints.strokes.map(({ role, points }, n) => (
            <path
              key={n}
              d={pathThrough(points)}
              fill={role === 'part' ? 'var(--sheet)' : 'none'}
              stroke={STROKE[role]}
              strokeWidth={role === 'liquid' || role === 'vapour' ? 4 : 1.5}
            />
          ))}
        </svg>
        {joints.dots.map((one) => (
          <button
            key={one.key}
            type="button"
            data-joint={one.key}
            data-found={one.state}
            aria-pressed={one.key === chosen}
            aria-label={`${one.label}, ${WORD[one.state]}`}
            disabled={!isOpen}
            onClick={() => setChosen(one.key === chosen ? '' : one.key)}
            className="absolute grid h-11 w-11 -translate-x-1/2 -translate-y-1/2 place-items-center"
            style={{
              left: `${(100 * one.x) / joints.width}%`,
              top: `${(100 * one.y) / joints.height}%`,
            }}
          >
            <span
              aria-hidden
              data-found={one.state}
              className={`grid h-6 w-6 place-items-center rounded-full border-2 border-ink bg-ground text-[0.85rem] leading-none font-bold data-[found=bubbles]:border-alarm data-[found=bubbles]:bg-alarm data-[found=bubbles]:text-ground data-[found=untested]:border-dashed ${one.key === chosen ? 'outline-3 outline-accent' : ''}`}
            >
              {MARK[one.state]}
            </span>
          </button>
        ))}
      </div>
      {joint ? (
        <div className="flex flex-wrap items-center gap-2">
          <strong className="basis-full">{joint.label}</strong>
          <Button tight onClick={() => onMark(joint.key, 'joint_dry')}>
            Stays dry
          </Button>
          <Button tight onClick={() => onMark(joint.key, 'joint_bubbles')}>
            Bubbles
          </Button>
          <Button tight onClick={() => onMark(joint.key, 'joint_mended')}>
            Mended
          </Button>
        </div>
      ) : (
        <p className="text-[0.95rem] text-soft">
          {left === 0
            ? 'Every joint is dry.'
            : `${left} of ${joints.dots.length} joints still to be bubble-tested. Touch one.`}
        </p>
      )}
    </div>
  )
}
