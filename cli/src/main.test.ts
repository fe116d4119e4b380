import { execFile, execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { afterAll, describe, expect, it, vi } from 'vitest'
import { wavBytes } from '@iron-hush/core/media'
import {
  BalanceAnswer,
  LevelsAnswer,
  LineUpAnswer,
  MeasureAnswer,
  OddsAnswer,
  TrialAnswer,
  WiringAnswer,
} from '@iron-hush/core/model'
import { talkingClip, tone } from '@iron-hush/core/signals'
import { isLong } from '../../core/src/tests/form'
import { readPatch } from './input'
import { main } from './main'
import { renderFiles } from './render-files'

const bin = path.resolve(import.meta.dirname, '../bin/hush.mjs')
const scenes = path.resolve(import.meta.dirname, '../../demo/scenes')
const tuning = path.join(scenes, '3-the-tuning.json')
const example = path.resolve(import.meta.dirname, '../../docs/example-patch.json')
const scratch = mkdtempSync(path.join(os.tmpdir(), 'hush-cli-'))
afterAll(() => rmSync(scratch, { recursive: true, force: true }))

interface Ended {
  code: number
  out: string
  err: string
}

/** A command line in this process: starting one again for each would take longer than all that they do. */
async function hush(...args: string[]): Promise<Ended> {
  const lines = { out: [] as string[], err: [] as string[] }
  const code = await main(['node', 'hush', ...args], {
    log: (text: unknown) => lines.out.push(`${String(text)}\n`),
    error: (text: unknown) => lines.err.push(`${String(text)}\n`),
  })
  return { code, out: lines.out.join(''), err: lines.err.join('') }
}

/** The same as a program of its own. */
const started = (...args: string[]): Promise<Ended> =>
  new Promise((resolve) => {
    execFile(process.execPath, [bin, ...args], { maxBuffer: 1e8 }, (error, out, err) =>
      resolve({ code: error ? Number(error.code) : 0, out, err }),
    )
  })
const file = (name: string, content: string | Uint8Array) => {
  const full = path.join(scratch, name)
  writeFileSync(full, content)
  return full
}

describe('hush', () => {
  it('advises: controls without effect, what to do first, and what could go into a link', async () => {
    const hall = path.join(scenes, '4-bells-in-the-town-hall.json')
    const { code, out } = await hush('advise', hall)
    expect(code).toBe(0)
    expect(out).toMatch(/^No effect here: Gain 2 of Backup recorder/)
    expect(out).toMatch(/Tell people that the microphone is live/)
    const { out: json } = await hush('advise', tuning, '--link', 'camera-feed', '--json')
    const { offers } = JSON.parse(json) as { offers: { gear: string; brings: string }[] }
    expect(offers.find(({ gear }) => gear === 'mini-pad-25')!.brings).toMatch(/dB|cures|headroom/)
    const lost = await hush('advise', tuning, '--link', 'nowhere')
    expect(lost).toMatchObject({ code: 2 })
    expect(lost.err).toMatch(/no link "nowhere".*camera-feed/)
  })
  it('says what it can when it is asked nothing, its release, and what it ends with', async () => {
    const alone = await hush()
    expect(alone.code).toBe(0)
    expect(alone.out).toMatch(/Usage: hush/)
    expect((await hush('--help')).out).toContain('2 for bad input')
    const release = await hush('--version')
    expect(release).toMatchObject({ code: 0, out: expect.stringMatching(/^\d+\.\d+\.\d+\n$/) as string })
  })
  it('writes completions that a shell takes: every command and its options', async () => {
    const { out, code } = await hush('completion', 'bash')
    expect(code).toBe(0)
    const script = file(
      'completion.bash',
      `${out}
      COMP_WORDS=(hush me); COMP_CWORD=1; _hush; echo "\${COMPREPLY[*]}"
      COMP_WORDS=(hush odds --dr); COMP_CWORD=2; _hush; echo "\${COMPREPLY[*]}"
    `,
    )
    expect(execFileSync('bash', [script], { encoding: 'utf8' })).toBe('measure\n--draws\n')
    expect((await hush('completion', 'zsh')).out).toMatch(/^#compdef hush/)
    expect((await hush('completion', 'fish')).err).toMatch(/bash and zsh/)
  })
  it.runIf(isLong)('reads a patch and a clip from standard input', async () => {
    const piped = (input: string | Uint8Array, ...args: string[]) =>
      execFileSync(process.execPath, [bin, ...args], { input, encoding: 'utf8' })
    expect(piped(readFileSync(example), 'wiring', '-')).toBe((await hush('wiring', example)).out)
    const clip = {
      typicalDbfs: -24,
      noiseDbfsA: -70,
      loudestPeakDbfs: -6,
      lengthS: 4,
      rateHz: 48000,
      seed: 1,
    }
    expect(piped(wavBytes([talkingClip(clip)], 48000), 'measure', '-')).toMatch(/speech/)
  })
  it('is a program that prints what it answers and ends with its code', async () => {
    const { code, out } = await started('levels', tuning)
    expect({ code, out }).toEqual(
      await hush('levels', tuning).then(({ code: same, out: text }) => ({ code: same, out: text })),
    )
    expect((await started('measure', 'nowhere.wav')).code).toBe(2)
  })
  it('levels: prints what its schema says, and ends with 1 for a harmful finding', async () => {
    const { code, out } = await hush('levels', tuning, '--json')
    const answer = LevelsAnswer.parse(JSON.parse(out))
    expect(code).toBe(1)
    expect(answer.findings[0]).toMatchObject({ severity: 'harmful', part: 'camera' })
    expect((await hush('levels', tuning)).out).toMatch(/bends at Camera, first amplifier/)
  })
  it('balance: proposes positions that take the harm away, and ends with 0', async () => {
    const { code, out } = await hush('balance', tuning, '--json')
    const answer = BalanceAnswer.parse(JSON.parse(out))
    expect(answer.fits).toBe(true)
    expect(answer.changes.length).toBeGreaterThan(0)
    expect(code).toBe(0)
    expect((await hush('balance', tuning)).out).toMatch(/camera\.level .* -> /)
  })
  it('wiring: lists what touches what, with levels, volts and findings', async () => {
    const { code, out } = await hush('wiring', tuning, '--json')
    const answer = WiringAnswer.parse(JSON.parse(out))
    expect(code).toBe(0)
    const boom = answer.links.find(({ link }) => link === 'boom-cable')!.variants[0]!
    expect(boom.reaches).toHaveLength(1)
    expect(boom.supplies.map(({ openVolts }) => openVolts)).toEqual([48, 48])
    expect((await hush('wiring', tuning)).out).toMatch(/phantom power on 2: 3\d\.\d\d V/)
  })
  it('find-way: goes from any thing of the shelf to any other, without a patch', async () => {
    const { code, out } = await hush(
      'find-way',
      ...['--from', 'fennimore-plug-in-lapel.out', '--to', 'saltmarsh-phone.headset', '--json'],
    )
    expect(code).toBe(0)
    const ways = JSON.parse(out) as { pieces: string[]; lossDb: number }[]
    expect(ways[0]!.pieces).toEqual(['three-to-four'])
    const none = await hush('find-way', '--from', 'nobody.out', '--to', 'saltmarsh-phone.headset')
    expect(none.code).toBe(2)
    expect(none.err).toMatch(/nothing on the shelf has the id "nobody"/)
  })
  it('odds: chances and spreads, the same for the same seed', async () => {
    const ask = async () =>
      OddsAnswer.parse(JSON.parse((await hush('odds', tuning, '--draws', '2000', '--json')).out))
    const answer = await ask()
    expect(answer).toEqual(await ask())
    expect(answer.tracks.find(({ box }) => box === 'camera')!.clipping).toBeGreaterThan(0.9)
    expect((await hush('odds', tuning, '--draws', '500')).out).toMatch(
      /clips in 100 %, first at Camera, first amplifier/,
    )
    expect((await hush('odds', tuning, '--draws', 'many')).code).toBe(2)
  })
  it('render: one WAV for each recording, of the length asked for, and none half-written', async () => {
    const out = path.join(scratch, 'rendered')
    const { code, out: said } = await hush('render', tuning, '--seconds', '2', '--out', out)
    expect(code).toBe(0)
    const files = readdirSync(out)
    expect(files.sort()).toEqual(['camera-left.wav', 'recorder-1.wav', 'recorder-safety.wav'])
    expect(said.trim().split('\n')).toHaveLength(3)
    const measured = MeasureAnswer.parse(
      JSON.parse((await hush('measure', path.join(out, 'recorder-1.wav'), '--json')).out),
    )
    expect(measured).toMatchObject({ lengthS: 2, rateHz: 48_000, bits: 24 })
    const { patch, shelf } = await readPatch(tuning)
    const stopped = await renderFiles(patch, shelf, {
      seconds: 2,
      out: path.join(scratch, 'stopped'),
      seed: 1,
      rateHz: 48_000,
      cancelled: () => true,
    })
    expect(stopped).toEqual([])
    expect(readdirSync(path.join(scratch, 'stopped'))).toEqual([])
  })
  it.runIf(isLong)('balance: takes another peak target and another recording that counts', async () => {
    const ask = async (...more: string[]) =>
      BalanceAnswer.parse(JSON.parse((await hush('balance', tuning, '--json', ...more)).out))
    const [both, recorder] = [await ask('--counts', 'both good'), await ask('--counts', 'recorder first')]
    expect(recorder.after.speechToNoiseDb!).toBeGreaterThan(both.after.speechToNoiseDb!)
    expect((await ask('--peak-target', 'full')).changes).not.toEqual(both.changes)
    expect((await hush('balance', tuning, '--peak-target', 'loud')).code).toBe(2)
  })
  it('render: stopped half-way it leaves no file behind, and says so', async () => {
    const out = `${scratch}/stopped`
    const rendering = execFile(process.execPath, [bin, 'render', tuning, '--seconds', '600', '--out', out])
    let err = ''
    rendering.stderr!.on('data', (text: string) => (err += text))
    const ended = new Promise<number | null>((resolve) => rendering.on('close', resolve))
    await vi.waitFor(() => expect(readdirSync(out).length).toBeGreaterThan(0), 20_000)
    rendering.kill('SIGINT')
    expect(await ended).toBe(1)
    expect(err).toMatch(/Stopped: nothing was written/)
    expect(readdirSync(out)).toEqual([])
  }, 30_000)
  it.runIf(isLong)(
    'cures: what would win more than settings do, with its figures',
    async () => {
      for (const each of ['2-the-pour', '4-bells-in-the-town-hall']) {
        const { code, out } = await hush('cures', path.join(scenes, `${each}.json`))
        expect(code).toBe(0)
        expect(out).toMatch(
          /(cures|nearer) +.+: (speech|signal)-to-noise of .* [\d.]+ -> [\d.]+ dB, headroom/,
        )
      }
    },
    60_000,
  )
  it.runIf(isLong)('odds: settings that keep clipping rare', async () => {
    const { out } = await hush('odds', tuning, '--draws', '500', '--under', '0.05')
    expect(out).toMatch(/^with \d+ dB under every ceiling\n {2}\w+\.[\w-]+ {2}/)
    expect((await hush('odds', tuning, '--under', '7')).err).toMatch(/chance between 0 and 1/)
  })
  it('find-way: lists rows of pieces, and says what there is when a socket is not', async () => {
    const { code, out } = await hush('find-way', tuning, '--from', 'boom.out', '--to', 'recorder.in-1')
    expect(code).toBe(0)
    expect(out).toMatch(/xlr-cable/)
    const wrong = await hush('find-way', tuning, '--from', 'boom.tail', '--to', 'recorder.in-1')
    expect(wrong.code).toBe(2)
    expect(wrong.err).toMatch(/"boom\.tail" is no output of this patch; there are boom\.out/)
  })
  it('measure: reads a clip and ends with 1 when it is cut', async () => {
    const clip = { typicalDbfs: -24, noiseDbfsA: -70, loudestPeakDbfs: 6, lengthS: 8, rateHz: 48000, seed: 1 }
    const { code, out } = await hush(
      'measure',
      file('cut.wav', wavBytes([talkingClip(clip)], 48000)),
      '--json',
    )
    expect(MeasureAnswer.parse(JSON.parse(out)).findings[0]!.what).toMatch(/cut flat at full scale/)
    expect(code).toBe(1)
    const whole = await hush(
      'measure',
      file('whole.wav', wavBytes([talkingClip({ ...clip, loudestPeakDbfs: -6 })], 48000)),
    )
    expect(whole.code).toBe(0)
    expect(whole.out).toMatch(/speech -2[345]\.\d dBFS\(A\)/)
  })
  it('measure: several clips and folders, one that is refused among them', async () => {
    const folder = path.join(scratch, 'card', 'clips')
    mkdirSync(folder, { recursive: true })
    const clip = {
      typicalDbfs: -24,
      noiseDbfsA: -70,
      loudestPeakDbfs: -6,
      lengthS: 8,
      rateHz: 48000,
      seed: 1,
    }
    writeFileSync(path.join(folder, 'a.wav'), wavBytes([talkingClip(clip)], 48000))
    writeFileSync(path.join(folder, 'b.WAV'), wavBytes([talkingClip({ ...clip, loudestPeakDbfs: 6 })], 48000))
    writeFileSync(path.join(folder, 'notes.txt'), 'no clip')
    writeFileSync(path.join(folder, 'c.mov'), 'no clip either, whatever its name says')
    const { code, out, err } = await hush('measure', path.join(scratch, 'card'), '--json')
    expect((JSON.parse(out) as unknown[]).map((each) => MeasureAnswer.parse(each).clip)).toEqual([
      'a.wav',
      'b.WAV',
    ])
    expect(err).toMatch(/^c\.mov was refused/)
    expect(code).toBe(2)
    const both = await hush('measure', path.join(folder, 'a.wav'), path.join(folder, 'b.WAV'))
    expect(both.code).toBe(1)
    expect(both.out).toMatch(/a\.wav: WAV.*b\.WAV: WAV/s)
  })
  it('measure: beside the plan of a scene, with what explains the difference; as a table', async () => {
    const bench = path.join(scenes, '1-the-founder-at-the-bench.json')
    const clip = {
      typicalDbfs: -44,
      noiseDbfsA: -70,
      loudestPeakDbfs: -22,
      lengthS: 6,
      rateHz: 48000,
      seed: 1,
    }
    const recorded = file('recorder 7.wav', wavBytes([talkingClip(clip)], 48000))
    const { code, out } = await hush('measure', recorded, '--against', bench, '--json')
    expect(code).toBe(0)
    const [beside] = MeasureAnswer.parse(JSON.parse(out)).against
    expect(beside).toMatchObject({ channel: 1, recording: 'Recorder, track 1', source: 'founder' })
    const noise = beside!.figures.find(({ figure }) => figure === 'noise in the pauses')!
    expect(noise.differenceDb).toBeCloseTo(noise.measured! - noise.planned!, 6)
    // as loud as planned, and twelve decibels noisier: the fans
    expect(beside!.explanations[0]!.what).toMatch(/Noise of the place \(fans\) at 4\d dB\(A\), not at 34/)
    const other = await hush(
      'measure',
      file('x.wav', wavBytes([talkingClip(clip)], 48000)),
      '--against',
      bench,
    )
    expect(other.code).toBe(2)
    expect(other.err).toMatch(/its name does not match a recording of The founder at the bench.*recorder\.1/)
    const table = await hush('measure', recorded, '--csv')
    expect(table.out).toContain('recorder 7.wav,,clean,')
  })
  it('line-up: lists the steps, and with readings says what they mean and what is learnt', async () => {
    const steps = await hush('line-up', tuning, '--json')
    expect(steps.code).toBe(0)
    const { steps: before } = LineUpAnswer.parse(JSON.parse(steps.out))
    expect(before.map(({ kind }) => kind)).toEqual(
      expect.arrayContaining(['settle', 'scratch', 'send', 'tone', 'overload', 'floor', 'voice', 'listen']),
    )
    const readingsFile = path.join(scratch, 'readings.json')
    const write = (readings: object[]) =>
      writeFileSync(readingsFile, JSON.stringify({ format: 'iron-hush/readings', version: 2, readings }))
    // the tone at -30 dBFS on the recorder; a clip of it lies beside the file
    writeFileSync(path.join(scratch, 'at 18.wav'), wavBytes([tone(997, -4, 3, 48_000)], 48_000))
    write([
      { step: 'settle boom', seen: true },
      { step: 'scratch boom', moved: ['recorder.1', 'recorder.safety', 'camera.left'] },
      { step: 'tone camera level 1', levelDbfs: -41 },
      { step: 'tone camera level 11', levelDbfs: -19.5 },
      { step: 'tone camera level 18', clip: 'at 18.wav' },
    ])
    const read = await hush('line-up', tuning, '--readings', readingsFile, '--json')
    const answer = LineUpAnswer.parse(JSON.parse(read.out))
    expect(answer.steps.filter(({ answered }) => answered)).toHaveLength(5)
    expect(answer.learnt[0]).toMatchObject({ box: 'camera', figures: [{ name: 'Record level' }] })
    expect(answer.balance!.changes.some(({ box }) => box === 'camera')).toBe(true)
    expect(answer.steps.find(({ id }) => id === 'tone camera level 1')!.findings[0]!.what).toMatch(
      /amplifies 14\.\d dB less/,
    )
    const plain = await hush('line-up', tuning, '--readings', readingsFile)
    expect(plain.out).toMatch(/Learnt of camera\n {2}Record level: its law as read/)

    write([{ step: 'tone camera gain 1', levelDbfs: -41 }])
    const refused = await hush('line-up', tuning, '--readings', readingsFile)
    expect(refused.code).toBe(2)
    expect(refused.err).toMatch(/"tone camera gain 1" is not a step of this line-up\. There are: settle boom/)
    write([{ step: 'settle boom' }])
    expect((await hush('line-up', tuning, '--readings', readingsFile)).err).toMatch(
      /give one of seen, levelDbfs/,
    )
  })
  it.runIf(isLong)(
    'trial: finds the setting of the ride with a stand-in in at most five clips',
    { timeout: 60_000 },
    async () => {
      const ride = path.join(scenes, '8-the-ride.json')
      const { code, out } = await hush('trial', ride, '--device', 'unmarked', '--json')
      expect(code).toBe(0)
      const answer = TrialAnswer.parse(JSON.parse(out))
      expect(answer.clips.length).toBeGreaterThan(0)
      expect(answer.clips.length).toBeLessThanOrEqual(5)
      expect(answer.use.map(({ box }) => box)).toEqual(['receiver', 'camera'])
      expect(answer.clips.at(-1)).toMatchObject({ overloads: false, set: answer.use })
      expect((await hush('trial', ride, '--device', 'ghost')).err).toMatch(
        /"ghost" is not a stand-in of this scene\. There are: swapped-pair \(receiver\), unmarked \(camera\)/,
      )
      expect((await hush('trial', ride, '--device', 'unmarked', '--run', 'none')).err).toMatch(
        /cannot be tried/,
      )
    },
  )
  it('reads the example of the docs, which stands alone', async () => {
    const { code, out } = await hush('levels', example, '--json')
    expect(code).toBe(0)
    expect(LevelsAnswer.parse(JSON.parse(out)).runs).toHaveLength(1)
  })
  it.each([
    ['a missing file', () => ['levels', 'nowhere.json'], /nowhere\.json was refused: there is no such file/],
    ['what is not JSON', () => ['levels', file('nan.json', '{"a": NaN}')], /it is not JSON/],
    ['a patch that is none', () => ['balance', file('empty.json', '{}')], /format/],
    ['an empty clip', () => ['measure', file('empty.wav', '')], /it is empty/],
    [
      'a folder without clips',
      () => ['measure', mkdtempSync(path.join(scratch, 'empty-'))],
      /no clips are in this folder/,
    ],
    ['a folder as a patch', () => ['levels', scratch], /there is no such file/],
    ['an unknown word', () => ['tune', tuning], /unknown command/],
  ])('ends with 2 and one sentence for %s', async (_, args, expected) => {
    const { code, out, err } = await hush(...args())
    expect(code).toBe(2)
    expect(out).toBe('')
    expect(err).toMatch(expected)
    expect(err.trim().split('\n')).toHaveLength(1)
  })
})
