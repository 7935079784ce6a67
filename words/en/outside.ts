export default {
  outsideEstafette: 'Outside · Estafette',
  conversationsOutside: 'Conversations outside',
  whoWithWhom: 'Who with whom',
  putThroughBy: 'Put through by',
  endsByItselfAt: 'Ends by itself at',
  whatCanBeDone: 'What can be done',
  nobodyACallerHandedOn: 'Nobody. A caller handed on to a number outside, who is talking there through our lines, stands here until the two hang up.',
  takeBack: 'Take back {parties}',
  endTheCallOf: 'End the call of {parties}',
  endForBoth: 'End for both',
  theChosenConversation: 'The chosen conversation',
  putThroughByEndsBy: 'Put through by {by}; ends by itself at {at}, unless they hang up before.',
  twoOutsideThroughUs: 'Two outside, through us',
  whoeverPassesACallerOn:
    'Whoever passes a caller on to a number outside stays answerable for a while: the caller can be taken back, and nobody holds two of our lines for ever.',
} as const
