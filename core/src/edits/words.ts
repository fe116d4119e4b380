import type { Patch, Shelf } from '../model'
import { type Edit, kindOf } from './edit'
import { namesOf } from './names'

/** Description of an edit in a person's words: "Gain 1 of Recorder to 41 dB". */
export const editWords = (edit: Edit, patch: Patch, commonShelf: Shelf): string =>
  kindOf(edit).words(edit, namesOf(patch, commonShelf))
