export default {
  callsFrom: '{some} of {all} calls from {whose} went to {name}',
  callsOnThe: '{some} of {all} calls on the {whose} went to {name}',
  oftenGoTo: 'calls on the {line} at this time often go to {name}',
} as const
