/** The floor as a house front: departments one below the other in columns, each with its plate, everybody in their place from day to day. */

/** One number a person, one line, two, or a whole room. */
export const densities = ['numbers', 'names', 'windows', 'rooms'] as const
export type Density = typeof densities[number]

export interface Size { width: number, height: number }

/** People side by side in one place of a column: as many as one plate has room for. */
export const abreast: Record<Density, number> = { numbers: 4, names: 1, windows: 1, rooms: 1 }

/** The smallest place of each density that can be read, in CSS pixels. */
export const smallestPlace: Record<Density, Size> = {
  numbers: { width: 124, height: 12 },
  names: { width: 139, height: 15 },
  windows: { width: 148, height: 34 },
  rooms: { width: 206, height: 74 },
}

/** Where everybody has room with it: wide enough that each name has its number beside it. */
const roomyPlace: Partial<Record<Density, Size>> = { names: { width: 182, height: 15 } }

const largest = 1.6
const step = 0.02
/** How much higher than its width asks for a window may grow where rows are few. */
const stretched = 1.35
/** So many times the height of the room the columns may be before the floor is divided. */
const most = 2

export interface Front {
  columns: number
  /** Places one below the other in a column. */
  rows: number
  /** How much larger than the smallest its places are. */
  scale: number
  /** The height of a place, in CSS pixels. */
  height: number
  /** Each name has room for its number beside it. */
  roomy: boolean
  /** How many such fronts stand one below the other: more than one where not nearly all have room. */
  parts: number
  /** For each department, how many places stay empty before its plate: a plate never ends a column. */
  gaps: number[]
}

/**
 * The largest windows with which everybody is in sight; the smallest, in as few rows as the width allows, when there is no room for all. Where not even
 * half of them have room, columns end where the room does, and go on below in the next part.
 * @param departments how many people each has, in their order
 */
export function frontOf(departments: readonly number[], room: Size, density: Density): Front {
  const blocks = departments.map(people => Math.ceil(people / abreast[density]))
  const { width, height } = smallestPlace[density]
  const roomy = largestOf(blocks, room, roomyPlace[density])
  const largestFront = roomy ?? largestOf(blocks, room, { width, height })
  if (largestFront) return { ...largestFront, roomy: roomy !== null }
  const columns = Math.max(1, Math.floor(room.width / width))
  let rows = Math.max(2, Math.ceil(placesOf(blocks, []) / columns))
  while (!fits(blocks, columns, rows)) rows++
  const inSight = Math.floor(room.height / height)
  if (inSight < 2 || rows <= most * inSight) return { columns, rows, scale: 1, height, roomy: false, parts: 1, gaps: gapsOf(blocks, rows) }
  const gaps = gapsOf(blocks, inSight)
  return { columns, rows: inSight, scale: 1, height, roomy: false, parts: Math.ceil(placesOf(blocks, gaps) / (columns * inSight)), gaps }
}

/** The largest places with which all have room; null where not even the given ones do. */
function largestOf(blocks: readonly number[], room: Size, place: Size | undefined): Omit<Front, 'roomy'> | null {
  if (!place) return null
  for (let scale = largest; scale >= 1; scale -= step) {
    const columns = Math.floor(room.width / (place.width * scale))
    let rows = Math.floor(room.height / (place.height * scale))
    if (columns < 1 || rows < 2 || !fits(blocks, columns, rows)) continue
    // Columns of even length: no last one with a single person in it.
    while (rows > 2 && fits(blocks, columns, rows - 1)) rows--
    return { columns, rows, scale, height: Math.min(room.height / rows, place.height * scale * stretched), parts: 1, gaps: gapsOf(blocks, rows) }
  }
  return null
}

/** `blocks`: the places that each department's people take. */
function fits(blocks: readonly number[], columns: number, rows: number): boolean {
  return placesOf(blocks, gapsOf(blocks, rows)) <= columns * rows
}

function placesOf(blocks: readonly number[], gaps: readonly number[]): number {
  return blocks.reduce((sum, places) => sum + places + 1, 0) + gaps.reduce((sum, gap) => sum + gap, 0)
}

function gapsOf(blocks: readonly number[], rows: number): number[] {
  let at = 0
  return blocks.map((places) => {
    const gap = places > 0 && at % rows === rows - 1 ? 1 : 0
    at += gap + places + 1
    return gap
  })
}
