import { parentPort } from 'node:worker_threads'
import { serveEars } from '@iron-hush/core/measure'
import { portOf } from './helper'

// listens to some of the channels of a clip, beside the thread that reads it; it begins without the schemas of a model
if (parentPort) serveEars(portOf(parentPort))
