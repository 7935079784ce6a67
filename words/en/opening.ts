export default {
  open: 'open',
  byName: ', by {name}',
  callersGoTo: ': callers go to {name}',
  closed: 'closed',
} as const
