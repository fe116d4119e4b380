import type { ServerResponse } from 'node:http'
import { existsSync, readFileSync } from 'node:fs'
import path from 'node:path'
import type { Express } from 'express'
import expressStaticGzip from 'express-static-gzip'
import { askedFirst } from '@iron-hush/core/contract'

/** The build manifest's entry for a file. */
interface Built {
  file: string
  imports?: string[]
  isEntry?: boolean
}
type Manifest = Record<string, Built>

/** The built interface: stations are addresses of the one page. */
export function servePage(app: Express, web: string): void {
  app.use(expressStaticGzip(web, { index: false, serveStatic: { setHeaders: cachedByName } }))
  const written = path.join(web, '.vite', 'manifest.json')
  const manifest: Manifest = existsSync(written)
    ? (JSON.parse(readFileSync(written, 'utf8')) as Manifest)
    : {}
  app.get(/^\/[\w/-]*$/, (request, response) => {
    const data = askedFirst(request.path).map((each) => `<${each}>; rel=preload; as=fetch; crossorigin`)
    response.set('Link', [...data, ...linksOf(manifest, stationOf(request.path))].join(', '))
    response.set('Cache-Control', 'no-cache').sendFile('index.html', { root: web })
  })
}

/** Files with a hash in their name are cached for good; all others are revalidated. */
function cachedByName(response: ServerResponse, file: string): void {
  const named = /[\\/]assets[\\/].+-[\w-]{8}\.\w+(\.gz)?$/.test(file)
  response.setHeader('Cache-Control', named ? 'public, max-age=31536000, immutable' : 'no-cache')
}

export const stationOf = (address: string): string =>
  address === '/'
    ? 'start'
    : (/^\/(?:scene\/[\w-]+\/)?([\w-]+)$/.exec(address)?.[1] ?? '').replaceAll('-', '')

/** The scripts of a station, to be fetched with the page: it is known from the address which will be asked for. */
export function linksOf(manifest: Manifest, station: string): string[] {
  const [source] = Object.keys(manifest).filter((each) =>
    each.toLowerCase().endsWith(`/stations/${station}/${station}station.vue`),
  )
  const met = new Set<string>()
  const links: string[] = []
  const add = (name: string) => {
    const built = manifest[name]
    if (!built || built.isEntry || met.has(name)) return
    met.add(name)
    links.push(`</${built.file}>; rel=modulepreload`)
    for (const needed of built.imports ?? []) add(needed)
  }
  if (source) add(source)
  return links
}
