import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { whenEnding } from './ending.mjs'
import { root } from './processes.mjs'
import { Stop } from './say.mjs'

const mark = join(root, '.data/started-by')

/** Of two starts in one folder the second would end the database of the first: it says so instead. Throws Stop when one is under way. */
export function takeFolder() {
  mkdirSync(join(root, '.data'), { recursive: true })
  for (let tries = 0; ; tries++) {
    try {
      writeFileSync(mark, String(process.pid), { flag: 'wx' })
      whenEnding(() => rmSync(mark, { force: true }))
      return
    }
    catch (error) {
      if (/** @type {NodeJS.ErrnoException} */ (error).code !== 'EEXIST') throw error
      const other = startedBy()
      if (other !== null || tries > 0)
        throw new Stop(`Estafette runs from this folder already${other === null ? '' : ` (process ${other})`}: use that one, or end it and start again.`)
      rmSync(mark, { force: true })
    }
  }
}

/** The process that has taken the folder, if it is one of ours and still there. */
function startedBy() {
  try {
    const pid = Number(readFileSync(mark, 'utf8'))
    return pid > 0 && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('start.mjs') ? pid : null
  }
  catch {
    return null
  }
}
