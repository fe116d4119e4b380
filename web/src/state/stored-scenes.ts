import { readScene, SceneDocument } from '@iron-hush/core/contract'
import { ask, ServerAway } from '../sync/ask'
import { useOutbox } from '../sync/outbox'

/** Scenes as the server has them, kept in the browser too, so that they can be opened while it is away. */
export function useStoredScenes() {
  const { storage } = useOutbox()
  const stored = new Map<string, SceneDocument>()

  function store(scene: SceneDocument): void {
    stored.set(scene.id, scene)
    const { id, revision } = scene
    storage.keepDocument({ kind: 'scene', id, scope: '', revision, content: scene })
  }

  /** The scene as the server has it; while it is away, as it was when it was last asked. */
  async function load(id: string): Promise<SceneDocument> {
    try {
      const loaded = await ask(readScene, { id })
      store(loaded)
      return loaded
    } catch (error) {
      if (!(error instanceof ServerAway)) throw error
      const kept = (await storage.documents('scene', '')).find((each) => each.id === id)
      const read = SceneDocument.safeParse(kept?.content)
      if (!read.success) throw error
      stored.set(id, read.data)
      return read.data
    }
  }
  const latest = async (id: string) => stored.get(id) ?? (await load(id))
  return { store, load, latest }
}
