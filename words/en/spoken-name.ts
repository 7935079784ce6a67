export default {
  say: 'Say',
  sayANameByKey: 'Say a name: hold % or this button, speak, let go',
  noMicrophone: 'There is no microphone, or this page may not use it: type the name, or allow it in the browser.',
  listens: 'Speak…',
  understood: 'Understood: {name}',
  nothingUnderstood: 'No name was understood: say first and last name, or type it.',
  nobodyUnderstands: 'This house has no program that understands names: they are typed.',
  notNow: 'Names can\'t be understood at the moment: type it, or say it again in a moment.',
} as const
