/** The server says something on the live feed at least this often, in milliseconds; a browser takes it for gone after three times as long. */
export const feedBeat = 2_000
