export default {
  whatYouListenTo: 'What you listen to',
  youListenTo: 'You listen to',
  withOthers: 'with {others}',
  nobodyHearsYou: 'Nobody hears you.',
  hearsYouAlone: '{name} hears you, and nobody else.',
  onHoldAtPresent: 'On hold: there is nothing to be heard.',
  whisperWouldBeHeard: 'Nobody hears you. A whisper would be heard by others of ours.',
  whisper: 'Whisper',
  join: 'Join',
  listenNoMore: 'Listen no more',
} as const
