export { reasonWords } from '~~/core/console/acts'
