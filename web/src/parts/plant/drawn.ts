import type { DrawingUnit, ZoneParts } from '../../api/types'

export type Room = ZoneParts['rooms'][number]

/** A size [W] in its unit. */
export function sizeShown(watts: number, unit: DrawingUnit | undefined): string {
  return unit ? `${(watts / unit.in_core).toFixed(1)} ${unit.unit}` : ''
}

/** Storeys with rooms, the highest first. */
export function storeysOf(parts: ZoneParts): number[] {
  return [...new Set(parts.rooms.map((room) => room.storey ?? 0))].sort((a, b) => b - a)
}

/** Whether the outdoor unit stands over its rooms, by their heights. */
export function isOnTop(parts: ZoneParts): boolean {
  return parts.rooms.reduce((sum, room) => sum + (room.lift_m ?? 0), 0) <= 0
}

/** A drawing with one room more on a storey: the next free number there, as high as those beside. */
export function roomAdded(parts: ZoneParts, storey: number): ZoneParts {
  const keys = new Set(parts.rooms.map((room) => room.key))
  let n = 1
  while (keys.has(`${storey}.${n}`)) n += 1
  const beside = parts.rooms.find((room) => (room.storey ?? 0) === storey)
  const key = `${storey}.${n}`
  return {
    ...parts,
    rooms: [
      ...parts.rooms,
      { key, name: `Room ${key}`, storey, lift_m: beside?.lift_m ?? 0, group: beside?.group ?? '' },
    ],
  }
}

/** A drawing whose rooms' heights follow from their storeys, `high` metres each. */
export function liftedByStoreys(parts: ZoneParts, plantStorey: number, high: number): ZoneParts {
  const lift = (room: Room) => Math.round(((room.storey ?? 0) - plantStorey) * high * 10) / 10
  return { ...parts, rooms: parts.rooms.map((room) => ({ ...room, lift_m: lift(room) })) }
}
