// What the stories in a browser compare with.
export { apart, heardBeside } from './on-samples'
