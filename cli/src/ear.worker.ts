import { parentPort } from 'node:worker_threads'
import { serveEars } from '@iron-hush/core/measure'
import { known } from '@iron-hush/core/model'
import { portOf } from './helper'

// listens to some of the channels of a clip, beside the thread that reads it
serveEars(portOf(known(parentPort ?? undefined, 'the thread that began this one')))
