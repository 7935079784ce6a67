/** What there is news of. `messages`: for or from whoever listens; `waiting`: how many wait in each mailbox; `history`: how far the demo's has come. */
export const newsTopics = ['messages', 'waiting', 'dealtWith', 'keyPages', 'contacts', 'shift', 'history', 'whereabouts', 'accounts'] as const
export type NewsTopic = typeof newsTopics[number]
