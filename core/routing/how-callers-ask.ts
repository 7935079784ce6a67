/** Words by which callers ask for somebody, and say who they are, in the languages around: by them is heard, nothing of it is said. */

/** How people are asked for: what stands shortly before a name that is meant, in the languages around. */
export const cues = new Set(('speak talk through ask asked asking reach looking call to with is about from mr mrs ms miss mx dr doctor professor captain'
  + ' sprechen zu mit von herr frau parler avec de monsieur madame spreken met van meneer mevrouw').split(' '))
const greeting = String.raw`(?:(?:[Hh]ello|[Hh]i|[Gg]ood (?:day|morning|afternoon|evening)|[Gg]uten [Tt]ag|[Bb]onjour|[Gg]oedendag)[\s,]*)?`
const ownName = String.raw`(?:[Tt]his is|[Mm]y name is|I am|I'm|[Hh]ier ist|[Mm]ein [Nn]ame ist|[Ii]ci|[Jj]e m'appelle|[Mm]et|[Mm]ijn naam is)`
/** How people say who they are themselves: such a sentence points to nobody until its end, or until its comma. */
export const introducing = new RegExp(`^${greeting}${ownName}\\s+(?=\\p{Lu})`, 'u')
export const introduced = /\b(?:here|speaking|am apparat|à l'appareil|aan de lijn)$/i
/** Words that say nothing of what it is about. */
export const little = new Set('a an the of in on at to for and or der die das le la les un une de het een'.split(' '))
