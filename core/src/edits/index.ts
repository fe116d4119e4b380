export { Edit } from './edit'
export * from './apply-edits'
export { partOf } from './parts'
export { editWords } from './words'
