export default {
  parkSlot: 'park slot {name}',
  theVoicemailOf: 'the voicemail of {name}',
  aVoicemail: 'a voicemail',
  trunk: 'Trunk {name}',
  forwardsTo: '{name} forwards to {then}',
} as const
