import { useState } from 'react'
import { api, send } from '../../../api/client'
import { queryClient } from '../../../api/queries'
import type { Order, Photo, Visit } from '../../../api/types'
import { useAsking } from '../../../lib/asking'
import { newId } from '../../../lib/ids'
import { Button } from '../../../ui/Button'
import { FilePick } from '../../../ui/FilePick'
import { Heading } from '../../../ui/Heading'
import { PartSelect } from './PartSelect'

type Props = { visit: Visit; order: Order }

/** Pictures by part of the system, from the camera or a file. */
export function Pictures({ visit, order }: Props) {
  const [part, setPart] = useState('outdoor')
  const [caption, setCaption] = useState('')
  const { said, busy, ask } = useAsking()
  const isOpen = visit.state !== 'closed'
  if (!isOpen && order.photos.length === 0) return null
  const again = () => queryClient.invalidateQueries({ queryKey: ['visit', visit.id] })
  const take = (file: File) =>
    ask(async () => {
      const query = new URLSearchParams({ subsystem: part, caption })
      await send<Photo>('PUT', `/visits/${visit.id}/photos/${newId()}?${query.toString()}`, file)
      setCaption('')
      await again()
    }, 'Taking it in…')
  const takeOff = (photo: Photo) =>
    ask(async () => {
      const params = { path: { photo_id: photo.id } }
      await api.POST('/api/photos/{photo_id}/removals', { params, body: { id: newId() } })
      await again()
    }, 'Taking it off…')
  return (
    <section aria-label="Pictures" className="mt-5">
      <Heading aside={String(order.photos.length)}>Pictures</Heading>
      <ul className="mt-2 grid grid-cols-2 gap-3 sm:grid-cols-3">
        {order.photos.map((photo) => (
          <li key={photo.id} data-photo={photo.id}>
            <a href={`/api/photos/${photo.id}.jpg`} target="_blank" rel="noreferrer">
              <img
                src={`/api/photos/${photo.id}.jpg?small=true`}
                alt={photo.caption || photo.subsystem_label}
                className="aspect-[4/3] w-full rounded border border-rule-strong object-cover"
              />
            </a>
            <p className="text-[0.88rem] leading-snug">
              {photo.subsystem_label}
              {photo.caption !== '' && `. ${photo.caption}`}
            </p>
            {isOpen && (
              <Button tight weight="quiet" onClick={() => void takeOff(photo)}>
                Take off
              </Button>
            )}
          </li>
        ))}
      </ul>
      {isOpen && (
        <div className="mt-2 flex flex-wrap items-center gap-2">
          <PartSelect
            label="Which part the picture shows"
            of={order}
            value={part}
            onChange={setPart}
          />
          <input
            aria-label="Words under the picture"
            placeholder="Words under it"
            maxLength={200}
            value={caption}
            onChange={(event) => setCaption(event.target.value)}
            className="h-11 min-w-0 flex-1 basis-36 rounded border border-rule-strong bg-ground px-2 placeholder:text-soft"
          />
          <FilePick
            label={busy || 'Add a picture'}
            accept="image/*"
            camera
            onPick={(file) => void take(file)}
          />
        </div>
      )}
      {said !== '' && (
        <p role="alert" className="mt-1 border-l-4 border-alarm pl-2">
          {said}
        </p>
      )}
      {isOpen && (
        <p className="mt-1 text-[0.88rem] text-soft">
          Made smaller and saved anew: the place and time a camera writes into it are not kept.
        </p>
      )}
    </section>
  )
}
