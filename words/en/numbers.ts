export default {
  needsDigits: 'A telephone number needs digits.',
  digitsOnly: 'A telephone number holds digits only, with + in front if it is international.',
  tooLong: 'That is too long to be a telephone number.',
  insideHasNoExtension: 'A number inside has no extension: write the one or the other.',
  notComplete: 'That is not a complete telephone number: check the number of digits.',
} as const
