export default {
  line: 'Line {line}: {fault}',
} as const
