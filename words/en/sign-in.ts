export default {
  signInEstafette: 'Sign in · Estafette',
  answerSeeWhoIsFree: 'Answer, see who is free, pass on, and watch until somebody holds the call.',
  signIn: 'Sign in',
  signInWith: 'Sign in with {provider}',
  signingInEstafette: 'Signing in · Estafette',
  notSignedIn: 'Not signed in',
  signingIn: 'Signing in',
  aMomentWhatTheIdentity: 'A moment: what the identity provider says is looked at.',
  toTheSignIn: 'To the sign-in',
} as const
