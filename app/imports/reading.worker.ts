import { readContactFile } from '~~/core/formats/contact-file'
import type { Home } from '~~/core/numbers/dialled'
import type { Meaning } from '~~/core/formats/contact-fields'

/** Reads a file of contacts beside the interface, however large it is. */
globalThis.onmessage = ({ data }: MessageEvent<{ bytes: Uint8Array, home: Home, as?: Meaning[] }>) => {
  globalThis.postMessage(readContactFile(data.bytes, data.home, data.as))
}
