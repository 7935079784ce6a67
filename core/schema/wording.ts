import { setLocale } from 'yup'

/**
 * How every schema of the house speaks: its sentences name the field and the remedy, and never repeat what was sent. Imported before the first schema is
 * made.
 */
setLocale({
  mixed: {
    required: '${label} is missing: please fill it in.',
    defined: '${label} is missing: please fill it in.',
    notNull: '${label} is missing: please fill it in.',
    notType: ({ label, type }) => `${label} must be a ${type}.`,
    oneOf: '${label} must be one of: ${values}.',
  },
  string: { max: '${label} must be at most ${max} characters.', min: '${label} must be at least ${min} characters.' },
  number: { max: '${label} must be at most ${max}.', min: '${label} must be at least ${min}.', integer: '${label} must be a whole number.' },
  object: { noUnknown: '${label} holds fields that are not known: ${unknown}.' },
})
