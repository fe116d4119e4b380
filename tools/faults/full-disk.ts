import { execFileSync } from 'node:child_process'
import { chmodSync, closeSync, mkdtempSync, openSync, rmSync, writeSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { Application } from '../running'
import { newId } from './ledger'

const sizeMb = 420
/** A take with a note as long as one may be: the tables soon need another page of the disk. */
const takeOf = (scene: string, number: number) => ({
  id: newId(),
  scene,
  number,
  startedAt: '2026-05-04T09:00:00.000Z',
  endedAt: '2026-05-04T09:02:00.000Z',
  verdict: 'open',
  note: Array.from({ length: 300 }, () => Math.random().toString(36))
    .join('')
    .slice(0, 2000),
  marks: [],
  parts: [],
})

/** The application on a small disk that fills up and is freed again; undefined where no disk can be made (not root). */
export async function fullDisk(port: number) {
  const home = mkdtempSync(path.join(os.tmpdir(), 'iron-hush-full-'))
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${sizeMb}m,mode=755`, 'tmpfs', home], {
      stdio: 'ignore',
    })
  } catch {
    return undefined
  }
  const application = new Application(port, home)
  try {
    await application.start()
    return await filled(application)
  } finally {
    await application.end()
    execFileSync('umount', ['-l', home])
    rmSync(home, { recursive: true, force: true })
  }
}

async function filled(application: Application) {
  const { address, home } = application
  const shoots = (await (await fetch(`${address}/api/shoots`)).json()) as { scenes: { id: string }[] }[]
  const scene = shoots[0]!.scenes[0]!.id
  const stored: string[] = []
  let number = 0
  const put = async () => {
    const content = takeOf(scene, ++number)
    const answer = await fetch(`${address}/api/takes/${content.id}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ baseRevision: 0, content }),
    })
    if (answer.ok) stored.push(content.id)
    return { status: answer.status, text: await answer.text() }
  }
  for (let before = 0; before < 50; before++) await put()
  const filler = path.join(home, 'filler')
  fill(filler)
  const answers: { status: number; text: string }[] = []
  // writes that fit into the present pages still succeed
  while (answers.filter(({ status }) => status === 507).length < 20 && answers.length < 20_000)
    answers.push(await put())
  const readWhileFull = (await fetch(`${address}/api/scenes/${scene}`)).status
  rmSync(filler)
  let after = await put()
  for (let tries = 0; after.status !== 200 && tries < 100; tries++) {
    await new Promise((resolve) => setTimeout(resolve, 200))
    after = await put()
  }
  const listed = new Set<string>()
  for (let next: string | undefined = `/api/scenes/${scene}/takes?limit=1000`; next;) {
    const page: Response = await fetch(address + next)
    for (const { content } of (await page.json()) as { content: { id: string } }[]) listed.add(content.id)
    next = /<([^>]+)>/.exec(page.headers.get('link') ?? '')?.[1]
  }
  const refused = answers.filter(({ status }) => status !== 200)
  return {
    full: refused.filter(({ status }) => status === 507).length,
    others: [...new Set(refused.map(({ status }) => status))].filter((status) => status !== 507),
    said: refused.find(({ status }) => status === 507)?.text ?? '',
    readWhileFull,
    after: after.status,
    lost: stored.filter((id) => !listed.has(id)).length,
    stored: stored.length,
  }
}

/** Takes all room that is left. */
function fill(file: string): void {
  const handle = openSync(file, 'w')
  chmodSync(file, 0o644)
  try {
    for (const size of [1 << 20, 1 << 12])
      try {
        for (;;) writeSync(handle, Buffer.alloc(size, 1))
      } catch {
        // full for blocks of this size
      }
  } finally {
    closeSync(handle)
  }
}
