import { readFileSync } from 'node:fs'
import { levelsOfPatch, type Run } from '@iron-hush/core/levels'
import { parseJson, Patch, ShelfFile, shelfOf } from '@iron-hush/core/model'

const demo = `${import.meta.dirname}/../../../demo`
export const gear = parseJson(ShelfFile, readFileSync(`${demo}/shelf.json`, 'utf8'), 'shelf').gear
export const shelf = shelfOf(gear)
export const scene = (file: string): Patch =>
  parseJson(Patch, readFileSync(`${demo}/scenes/${file}.json`, 'utf8'), file)
export const bench = scene('1-the-founder-at-the-bench')
export const tuning = scene('3-the-tuning')
export const camera: Run = levelsOfPatch(tuning, shelf).runs.find(({ end }) => end.box === 'camera')!
