import { LoopStrokes } from '../../../drawing/LoopStrokes'
import { fitted } from '../../../drawing/frame'
import type { DrawnLoop, Instrument, Opened } from '../../../api/types'
import { useSize } from '../../../state/size'
import { useSpoken } from '../../../state/spoken'
import { LoopNumber } from './LoopNumber'
import { Probes } from './Probes'

type Props = {
  visitId: string
  stage: DrawnLoop[]
  /** What stands behind an estimate, where no gauge is on. */
  estimates: Record<string, Opened | undefined>
  instruments: Instrument[]
  onProbe: (key: string) => void
  onPlace: (channel: string, point: string) => void
}

/** The Loop as the display: the four numbers stand on it, each where it lives. */
export function LoopStage(props: Props) {
  const { visitId, stage, estimates, instruments, onProbe, onPlace } = props
  const [frame, size] = useSize({ width: 816, height: 412 })
  const { spoken } = useSpoken()
  const fit = fitted(stage, size.width, size.height)
  return (
    <figure ref={frame} data-loop={fit?.drawn.frame} className="relative h-full overflow-hidden">
      {fit && (
        <div
          className="absolute"
          style={{
            left: fit.left,
            top: fit.top,
            width: fit.drawn.width * fit.scale,
            height: fit.drawn.height * fit.scale,
          }}
        >
          <LoopStrokes drawn={fit.drawn} spokenPoints={spoken.points} spokenSigns={spoken.signs} />
          <div role="group" aria-label="The four numbers">
            {fit.drawn.numbers.map((number) => (
              <LoopNumber
                key={number.key}
                visitId={visitId}
                number={number}
                estimate={estimates[number.key]}
                scale={fit.scale}
                isSpoken={spoken.signs.includes(number.key)}
              />
            ))}
          </div>
          <Probes drawn={fit.drawn} scale={fit.scale} {...{ instruments, onProbe, onPlace }} />
        </div>
      )}
      <figcaption className="sr-only">{fit?.drawn.words}</figcaption>
    </figure>
  )
}
