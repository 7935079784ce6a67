export default {
  said: 'said: {words}',
  callerPointsTo: '“{words}”: probably for {name}, {key}{more}',
  hasJustComeHere: '{name} has come to this key only now. Nothing was done: press again if it is for them.',
  callsFrom: '{some} of {all} calls from {whose} went to {name}',
  callsOnThe: '{some} of {all} calls on the {whose} went to {name}',
  oftenGoTo: 'calls on the {line} at this time often go to {name}',
} as const
