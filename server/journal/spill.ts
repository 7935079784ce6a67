import {
  closeSync, existsSync, ftruncateSync, mkdirSync, openSync, readdirSync, readFileSync, readSync, renameSync, rmSync, statSync, writeSync,
} from 'node:fs'
import { join } from 'node:path'

const chunk = 1024 * 1024
const prefix = 'journal-'

/**
 * A file for what has no room in memory: values in, in order, and the same values out. It is there only while it holds something.
 * A server that ended with something in its file leaves it to the next one that starts in the same folder.
 */
export class Spill<T> {
  private readonly file: string
  private read = 0
  private written = 0
  private rest: Buffer = Buffer.alloc(0)

  constructor(private readonly folder: string, owner: number) {
    this.file = join(folder, `${prefix}${owner}.jsonl`)
  }

  /** Bytes that have not been taken out yet. */
  get size(): number {
    return this.written - this.read + this.rest.length
  }

  /** @throws when the disk has no room for them, or is not there: then none of them is kept, and what was in the file is */
  add(values: readonly T[]): void {
    if (!existsSync(this.folder)) mkdirSync(this.folder, { recursive: true, mode: 0o700 })
    const bytes = Buffer.from(values.map(value => `${JSON.stringify(value)}\n`).join(''))
    const file = openSync(this.file, 'a', 0o600)
    try {
      // What a full disk took half of stands behind the end: it is cut off, or else written over.
      ftruncateSync(file, this.written)
      for (let done = 0; done < bytes.length;) done += writeSync(file, bytes, done)
      this.written += bytes.length
    }
    finally {
      closeSync(file)
    }
  }

  /** The oldest values that are left: some, or none when the file is empty. */
  take(): T[] {
    const values: T[] = []
    while (values.length === 0 && this.read < this.written) {
      const bytes = Buffer.alloc(Math.min(chunk, this.written - this.read))
      const file = openSync(this.file, 'r')
      this.read += readSync(file, bytes, 0, bytes.length, this.read)
      closeSync(file)
      const lines = Buffer.concat([this.rest, bytes])
      const end = lines.lastIndexOf(10)
      this.rest = Buffer.from(lines.subarray(end + 1))
      values.push(...parsed<T>(lines.subarray(0, end + 1).toString('utf8')))
    }
    if (this.size === 0) {
      rmSync(this.file, { force: true })
      this.read = this.written = 0
    }
    return values
  }

  /** What servers have left behind that are no more; asked before anything is added. Their files go with it. */
  inherit(): T[] {
    if (!existsSync(this.folder)) return []
    return readdirSync(this.folder).filter(name => name.startsWith(prefix) && isLeft(name)).flatMap((name) => {
      const mine = join(this.folder, `${name}.taken`)
      try {
        // Of two servers that start together one gets it.
        renameSync(join(this.folder, name), mine)
      }
      catch {
        return []
      }
      const values = statSync(mine).size > 0 ? parsed<T>(readFileSync(mine, 'utf8')) : []
      rmSync(mine, { force: true })
      return values
    })
  }
}

/** Lines that were cut off when their writer died are left out. */
function parsed<T>(text: string): T[] {
  return text.split('\n').flatMap((line) => {
    try {
      return line ? [JSON.parse(line) as T] : []
    }
    catch {
      return []
    }
  })
}

function isLeft(name: string): boolean {
  const owner = Number(/^journal-(\d+)\.jsonl$/.exec(name)?.[1])
  if (!owner) return false
  // Numbers of processes come again, in a container always the same: what bears our own is of one before us.
  if (owner === process.pid) return true
  try {
    process.kill(owner, 0)
    return false
  }
  catch (error) {
    return (error as NodeJS.ErrnoException).code === 'ESRCH'
  }
}
