/** What a program that understands speech takes: hertz, and seconds, longer than any name takes. */
export const speechRate = 16_000
export const longestName = 6
