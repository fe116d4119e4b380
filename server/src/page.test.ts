import { describe, expect, it } from 'vitest'
import { linksOf, stationOf } from './page'

const manifest = {
  'index.html': { file: 'assets/index.js', isEntry: true, imports: ['_shared.js'] },
  '_shared.js': { file: 'assets/shared.js' },
  'src/stations/levels/LevelsStation.vue': {
    file: 'assets/levels.js',
    imports: ['index.html', '_shared.js'],
  },
}

describe('what a page asks for ahead', () => {
  it('is its station with all that it needs, each once, and not what the page names itself', () => {
    expect(linksOf(manifest, 'levels')).toEqual([
      '</assets/levels.js>; rel=modulepreload',
      '</assets/shared.js>; rel=modulepreload',
    ])
  })
  it('is nothing where there is no such station', () => {
    expect(linksOf(manifest, 'constructor')).toEqual([])
    expect(linksOf({}, 'levels')).toEqual([])
  })
  it('is known from the address of every station', () => {
    const addresses = ['/', '/gear', '/scene/01a2-b3/levels', '/scene/01a2-b3/line-up', '/a/b/c']
    expect(addresses.map(stationOf)).toEqual(['start', 'gear', 'levels', 'lineup', ''])
  })
})
