export default {
  estafetteForAWall: 'Estafette, for a wall',
} as const
