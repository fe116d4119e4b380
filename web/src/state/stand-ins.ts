import { computed } from 'vue'
import { standInsOf } from '@iron-hush/core/devices'
import { parse, StandInFile } from '@iron-hush/core/model'
import shipped from '../../../demo/stand-ins.json'
import { useGear } from './gear'
import { useScene } from './scene'

/** The stand-in devices that ship. */
export const standIns = parse(StandInFile, shipped, 'The stand-in devices').devices

/** The stand-ins of the boxes of the open scene, by box. */
export function useStandIns() {
  const scene = useScene()
  const gear = useGear()
  return computed(() => standInsOf(scene.openPatch, gear.shelf, standIns))
}
