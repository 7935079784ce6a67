import { readContactFile } from '~~/core/formats/contact-file'
import type { Meaning } from '~~/core/formats/contact-fields'

/** Reads a file of contacts beside the interface, however large it is. */
globalThis.onmessage = ({ data }: MessageEvent<{ bytes: Uint8Array, as?: Meaning[] }>) => {
  globalThis.postMessage(readContactFile(data.bytes, data.as))
}
