import { useMethods } from '../../api/queries'
import { post } from '../../state/outbox'
import { usePreferences } from '../../state/preferences'
import { Heading } from '../../ui/Heading'
import { LoadState } from '../../ui/LoadState'

/** Which school of targets this workshop starts from. A system can override it. */
export function DefaultMethods() {
  const methods = useMethods()
  const { units } = usePreferences()
  return (
    <section aria-label="Methods" className="mt-10">
      <Heading aside="a system can override it">How charge is judged here</Heading>
      <LoadState of={methods}>
        {(choices) => (
          <div className="grid gap-x-8 gap-y-4 pt-3 sm:grid-cols-2">
            {choices.map((choice) => {
              const chosen = choice.methods.find((one) => one.key === choice.chosen)
              return (
                <div key={choice.key}>
                  <label htmlFor={choice.key} className="block text-[0.92rem] font-bold">
                    {choice.label}
                  </label>
                  <select
                    id={choice.key}
                    value={choice.chosen}
                    onChange={(event) =>
                      post(
                        '/api/methods',
                        { key: choice.key, method: event.target.value },
                        { units },
                      )
                    }
                    className="h-11 w-full rounded border border-rule-strong bg-sheet px-2"
                  >
                    <option value="">the most trusted that applies</option>
                    {choice.methods.map((one) => (
                      <option key={one.key} value={one.key}>
                        {one.label}
                      </option>
                    ))}
                  </select>
                  <p className="mt-1 text-[0.9rem] leading-snug text-soft">
                    {chosen?.reason ??
                      `In this order: ${choice.methods.map((one) => one.label.toLowerCase()).join(', ')}.`}
                  </p>
                </div>
              )
            })}
          </div>
        )}
      </LoadState>
    </section>
  )
}
