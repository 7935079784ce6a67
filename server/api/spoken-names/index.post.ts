import { longestName, speechRate } from '~~/core/recognition/speech'
import { spokenName, understood } from '~~/shared/spoken-names'
import { answering, defineEndpoint } from '../../endpoints/define'
import { t } from '../../language'
import { readWav } from '../../own-sounds/brought'
import { RecogniserAway } from '../../recognition/recogniser'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'A name that was spoken (WAV, one channel, 16 bits, 16 kHz), as the directory writes it; nothing of it is kept',
  mayAsk: answering,
  dear: true,
  body: spokenName,
  answer: understood,
  also: { 409: 'This house has no program that understands names.', 503: 'It is not installed, or has too much to do.' },
}, async ({ body: { wav } }) => {
  const { recogniser, log } = useRelay()
  if (!recogniser) throw createError({ statusCode: 409, message: t('spokenName.nobodyUnderstands') })
  readWav(wav, speechRate, longestName)
  try {
    return { name: await recogniser.hears(Buffer.from(wav, 'base64')) }
  }
  catch (error) {
    if (!(error instanceof RecogniserAway)) throw error
    log(`names that are spoken: ${error.message}`)
    throw createError({ statusCode: 503, message: t('spokenName.notNow') })
  }
})
