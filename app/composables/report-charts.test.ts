import { expect, test } from 'vitest'
import { type Tally, tallyFrom } from '~~/core/figures/service-level'
import type { Figures } from '~~/shared/figures'
import { chartsOf } from './report-charts'

const rule = { kind: 'offered' as const, shortAbandon: 5_000 }

function reportOf(...halfHours: Tally[]): Figures {
  const tallies = Array.from({ length: 48 }, (_, at) => halfHours[at - 18] ?? tallyFrom({}))
  return {
    from: '2031-05-12', to: '2031-05-12', total: tallyFrom({ offered: 20 }), blocked: 0, step: 'day',
    byHalfHour: tallies.map(tally => ({ tally, minutes: 0, times: 1 })), bySteps: [{ from: Date.UTC(2031, 4, 12), tally: tallyFrom({ offered: 20 }) }],
    byLine: [], byQueue: [], byDestination: [], operators: [], waits: { answered: [], abandoned: [] }, flow: [],
    again: { calls: 0, answered: 0, abandoned: 0, other: 0 }, parkings: [], names: {},
  }
}

function barsOf(report: Figures) {
  const [chart] = chartsOf({ report, before: null, rule, company: null, ofQueue: false })
  if (chart?.kind !== 'bars') throw new Error('no bars')
  return chart
}

test('the parts of a bar are all who called: answered in time and later, gave up, went elsewhere, wait now', () => {
  const nine = tallyFrom({ offered: 12, answered: 5, within: 3, abandoned: 2, mailbox: 1, waiting: 4 })
  const chart = barsOf(reportOf(nine, tallyFrom({ offered: 8, answered: 8, within: 8 })))
  expect(chart.labels).toEqual(['9:00', '9:30'])
  expect(chart.series.map(({ shade, values }) => [shade, ...values])).toEqual([
    ['within', 3, 8], ['late', 2, 0], ['gaveUp', 2, 0], ['other', 1, 0], ['waiting', 4, 0],
  ])
  expect(chart.legend).toEqual(chart.series)
})

test('a day on which nobody waits any more has no part for it', () => {
  expect(barsOf(reportOf(tallyFrom({ offered: 2, abandoned: 2 }))).series.map(({ shade }) => shade)).toEqual(['within', 'late', 'gaveUp', 'other'])
})
