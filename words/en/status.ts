export default {
  available: 'Available',
  awayReasonWordsMore: 'Away: {reason}{more}',
  yourCallsAreForwarded: 'Your calls are forwarded …',
  forwardYourCalls: 'Forward your calls …',
  awayReasonWords: 'Away: {reason}',
  forMinutes: '{reason} for {length} minutes',
  ownStatus: 'Own status: {words}',
} as const
