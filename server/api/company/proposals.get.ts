import { proposals, proposalsQuery } from '~~/shared/first-hour'
import { proposalsFor } from '../../company/proposals'
import { defineEndpoint } from '../../endpoints/define'
import { useRelay } from '../../relay'

export default defineEndpoint({
  summary: 'What is usual in a country: its clocks, languages, emergency numbers, and public holidays of this year and the next two',
  dear: true,
  mayAsk: { right: 'runCompany' },
  query: proposalsQuery,
  answer: proposals,
}, ({ query: { country, region } }) => proposalsFor(country, region, new Date(useRelay().wallNow).getUTCFullYear()))
