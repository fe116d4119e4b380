import { z } from 'zod'
import { type Patch, type Shelf, known } from '../model'
import { addBox } from './add-box'
import { changeBrief } from './change-brief'
import { changePlan } from './change-plan'
import { connect } from './connect'
import { coverBox } from './cover-box'
import { disconnect } from './disconnect'
import type { EditKind } from './edit-kind'
import { feedBox } from './feed-box'
import { insertPiece } from './insert-piece'
import { keepReading } from './keep-reading'
import { lockControl } from './lock-control'
import { placeBox } from './place-box'
import { removeBox } from './remove-box'
import { removePiece } from './remove-piece'
import { rename } from './rename'
import { restoreWiring } from './restore-wiring'
import { setControl } from './set-control'
import { setNote } from './set-note'
import { setWiring } from './set-wiring'
import { swap } from './swap'

const kinds = [
  setControl,
  lockControl,
  changeBrief,
  changePlan,
  rename,
  setNote,
  keepReading,
  addBox,
  removeBox,
  placeBox,
  coverBox,
  feedBox,
  connect,
  disconnect,
  insertPiece,
  removePiece,
  swap,
  setWiring,
  restoreWiring,
] as const

/** A small named change of a patch. Undo, the log, offline work and conflict reports are made of these. */
export const Edit = z.discriminatedUnion('kind', [
  setControl.schema,
  lockControl.schema,
  changeBrief.schema,
  changePlan.schema,
  rename.schema,
  setNote.schema,
  keepReading.schema,
  addBox.schema,
  removeBox.schema,
  placeBox.schema,
  coverBox.schema,
  feedBox.schema,
  connect.schema,
  disconnect.schema,
  insertPiece.schema,
  removePiece.schema,
  swap.schema,
  setWiring.schema,
  restoreWiring.schema,
])
export type Edit = z.infer<typeof Edit>

type AnyKind = EditKind<z.ZodType<Edit>, Edit>
const byName = new Map(
  // each kind receives only edits of its own schema
  kinds.map((kind) => [kind.schema.shape.kind.value, kind as unknown as AnyKind] as const),
)

/** The kind of an edit. Its schema has let only known kinds in. */
export const kindOf = (edit: Edit): Pick<AnyKind, 'apply' | 'inverse' | 'words'> =>
  known(byName.get(edit.kind), `edit ${edit.kind}`)

/** The patch with one edit, before anything checks it. */
export const applied = (patch: Patch, edit: Edit, shelf: Shelf): Patch =>
  kindOf(edit).apply(patch, edit, shelf)
