/** The server says something on the live feed at least this often, in milliseconds; a browser takes it for gone after three times as long. */
export const feedBeat = 2_000

/** What browser and server say to each other on the live feed; another number with every change after which an old page could not read a new server. */
export const feedVersion = 4
