/** The most characters of what people write for themselves or for whoever comes next. Apart from the schemas, for fields that need no more of them. */
export const longest = { note: 600, shiftNote: 600 } as const
