// The simulated observatory over HTTP: each rig under an address of its own, speaking the open device protocol; beside it the
// two seams for guider and solver, and what tests and the demo need: a clock for each, faults, and what really happened.
import type { FastifyInstance, FastifyReply } from 'fastify';
import type { SkyStar } from '@meridiem/core';
import type { Fields } from './alpaca-properties.ts';
import { asProtocolError, DEVICES, notConnected, notImplemented } from './alpaca-properties.ts';
import { observatoryClock } from './clock.ts';
import type { Fault } from './faults.ts';
import { FAULTS } from './faults.ts';
import type { RigFacts } from './rig-facts.ts';
import { MOST_PIXELS } from './rig-facts.ts';
import type { RigMemory } from './rig-memory.ts';
import { rigMemory } from './rig-memory.ts';
import { SimulatedRig } from './rig.ts';

export interface ObservatoryParts {
  /** Monotonic milliseconds. */
  readonly realNowMs: () => number;
  /** What a rig's clock begins with. */
  readonly startUtcMs: () => number;
  /** Stars of the catalogue; asked for once a rig is built. */
  readonly stars: () => readonly SkyStar[];
  /** Rigs of a process before this one, and where they are kept. */
  readonly memory?: RigMemory;
  /** Whether neither cloud nor wind comes of itself. */
  readonly isCalm?: boolean;
}

const SLOW_MS = 250;
const MOST_RUN_SEC = 7200;
const WATCH_MS = 250;
const IMAGE_BYTES = 'application/imagebytes';
const HEADER_BYTES = 44;
const MOST_PICTURE_BYTES = 16 * 1_048_576;

export async function observatoryRoutes(
  app: FastifyInstance,
  { realNowMs, startUtcMs, stars, memory = rigMemory(null), isCalm = false }: ObservatoryParts,
): Promise<void> {
  const rigs = new Map<string, SimulatedRig>();
  for (const state of memory.all()) {
    const clock = observatoryClock(realNowMs, state.utcMs);
    clock.set({ speed: state.speed });
    rigs.set(state.name, new SimulatedRig(state.name, state.facts, { clock, stars: stars(), state, isCalm }));
  }
  const connected = new Set<string>();
  let transactions = 0;
  const timer = setInterval(
    () =>
      rigs.forEach((rig, name) => {
        rig.watch();
        memory.keep(() => rig.state(name));
      }),
    WATCH_MS,
  ).unref();
  app.addHook('preClose', async () => rigs.forEach(({ time }) => time.end()));
  app.addHook('onClose', async () => clearInterval(timer));
  app.addContentTypeParser('application/x-www-form-urlencoded', { parseAs: 'string' }, (_request, body, done) =>
    done(null, Object.fromEntries(new URLSearchParams(body as string))),
  );
  app.addContentTypeParser(IMAGE_BYTES, { parseAs: 'buffer', bodyLimit: MOST_PICTURE_BYTES }, (_request, body, done) =>
    done(null, body),
  );

  /** The rig by the way that its devices are asked: where the line or the power is cut nothing comes back. */
  const deviceRigOf = (name: string, reply: FastifyReply): SimulatedRig | null => {
    if (rigs.get(name)?.answers === false) {
      reply.hijack();
      reply.raw.destroy();
      return null;
    }
    return rigOf(name, reply);
  };
  const rigOf = (name: string, reply: FastifyReply): SimulatedRig | null => {
    const rig = rigs.get(name) ?? null;
    if (!rig) void reply.code(404).send({ words: `there is no rig ${name}` });
    rig?.asked();
    rig?.watch();
    return rig;
  };

  app.get<{ Params: { rig: string } }>('/rigs/:rig/clock', async ({ params }, reply) => {
    const clock = rigs.get(params.rig)?.clock;
    if (!clock) return reply.code(404).send({ words: 'no such rig' });
    return { utcMs: clock.nowUtcMs(), speed: clock.speed, trueSpeed: clock.trueSpeed() };
  });
  /** Where it stands, time goes on only once somebody lets it run. */
  app.put<{ Params: { rig: string }; Body: { utcMs?: number; speed?: number; stands?: boolean } }>(
    '/rigs/:rig/clock',
    async ({ params, body }, reply) => {
      const rig = rigOf(params.rig, reply);
      if (!rig) return reply;
      rig.clock.set(body);
      if (body.stands) rig.time.stand();
      rig.asked();
      return { utcMs: rig.clock.nowUtcMs(), speed: rig.clock.speed };
    },
  );
  /** Lets time run for so long; the answer comes when it has. */
  app.post<{ Params: { rig: string }; Body: { sec: number; isBeside?: boolean } }>(
    '/rigs/:rig/clock/run',
    async ({ params, body }, reply) => {
      const rig = rigOf(params.rig, reply);
      if (!rig) return reply;
      const gone = new Promise<void>((resolve) => reply.raw.once('close', resolve));
      await rig.time.run(Math.max(0, Math.min(MOST_RUN_SEC, body.sec)), { isBeside: body.isBeside, gone });
      return { utcMs: rig.now };
    },
  );
  /** Builds a rig, or leaves it standing where it is built of the same already. */
  app.put<{ Params: { rig: string }; Body: RigFacts }>('/rigs/:rig', async ({ params, body }, reply) => {
    if (body.widthPx * body.heightPx > MOST_PIXELS)
      return reply.code(422).send({ words: 'no simulated sensor is that large' });
    const known = rigs.get(params.rig);
    if (!known || JSON.stringify(known.facts) !== JSON.stringify(body))
      rigs.set(
        params.rig,
        new SimulatedRig(params.rig, body, {
          clock: observatoryClock(realNowMs, startUtcMs()),
          stars: stars(),
          isCalm,
        }),
      );
    return { ok: true };
  });
  app.put<{ Params: { rig: string }; Body: { fault: Fault; forSec: number } }>(
    '/rigs/:rig/faults',
    async (request, reply) => {
      const rig = rigOf(request.params.rig, reply);
      if (!rig) return reply;
      if (!FAULTS.includes(request.body.fault)) return reply.code(422).send({ words: 'this fault is not known' });
      rig.breakDown(request.body.fault, request.body.forSec);
      return { ok: true };
    },
  );
  app.get<{ Params: { rig: string } }>('/rigs/:rig/truth', async ({ params }, reply) => {
    const rig = rigs.get(params.rig);
    if (!rig) return reply.code(404).send({ words: 'no such rig' });
    return { entries: rig.truth.all(), roof: rig.roof.state(rig.now), isParked: rig.mount.isParked };
  });

  app.get<{ Params: { rig: string } }>(
    '/rigs/:rig/guider',
    async ({ params }, reply) => deviceRigOf(params.rig, reply)?.guiding() ?? reply,
  );
  app.put<{ Params: { rig: string; act: string }; Querystring: { exposureSec?: string; count?: string } }>(
    '/rigs/:rig/guider/:act',
    async ({ params, query }, reply) => {
      const rig = deviceRigOf(params.rig, reply);
      if (!rig) return reply;
      if (params.act === 'start' && !rig.seesGuideStar)
        return reply.code(422).send({ words: 'there is no star to guide on' });
      if (params.act === 'start') rig.guider.start(rig.now);
      else if (params.act === 'stop') rig.guider.stop();
      else if (params.act === 'dither') rig.guider.dither(rig.now);
      else if (params.act === 'darks')
        rig.guider.takeDarks(rig.now, { exposureSec: Number(query.exposureSec ?? 1), count: Number(query.count ?? 1) }); // prettier-ignore
      else return reply.code(404).send({ words: 'the guider does not know this' });
      return {};
    },
  );
  app.post<{ Params: { rig: string } }>(
    '/rigs/:rig/solve',
    { bodyLimit: MOST_PICTURE_BYTES },
    async ({ params, body }, reply) => {
      const rig = deviceRigOf(params.rig, reply);
      if (!rig) return reply;
      const solution = Buffer.isBuffer(body) && body.length > HEADER_BYTES ? rig.solved() : null;
      return solution ?? reply.code(422).send({ words: 'no stars that fit the sky were found' });
    },
  );

  const answer = async (rig: SimulatedRig, work: () => unknown, fields: Fields): Promise<object> => {
    if (rig.faults.has('slow answers', rig.now)) await new Promise((resolve) => setTimeout(resolve, SLOW_MS));
    const ids = { ClientTransactionID: Number(fields.ClientTransactionID ?? 0), ServerTransactionID: ++transactions };
    try {
      return { Value: work(), ...ids, ErrorNumber: 0, ErrorMessage: '' };
    } catch (error) {
      const { errorNumber, message } = asProtocolError(error);
      return { ...ids, ErrorNumber: errorNumber, ErrorMessage: message };
    }
  };
  interface DeviceCall {
    Params: { rig: string; kind: string; number: string; property: string };
    Querystring: Record<string, string>;
    Body: Record<string, string>;
  }
  const PATH = '/rigs/:rig/api/v1/:kind/:number/:property';
  app.get<DeviceCall>(PATH, async ({ params, query, headers }, reply) => {
    const rig = deviceRigOf(params.rig, reply);
    const device = DEVICES[params.kind];
    if (!rig) return reply;
    if (!device || params.number !== '0') return reply.code(400).send('there is no such device');
    const key = `${params.rig} ${params.kind}`;
    if (params.kind === 'camera' && params.property === 'imagearray') {
      if (!headers.accept?.includes(IMAGE_BYTES)) return reply.code(400).send('pictures are sent in binary form alone');
      return reply.type(IMAGE_BYTES).send(pictureBytes(rig));
    }
    const work = (): unknown => {
      if (params.property === 'connected') return connected.has(key) && !rig.isDisconnected(params.kind);
      if (params.property === 'name') return device.name;
      if (rig.isDisconnected(params.kind)) throw notConnected();
      const read = device.read[params.property];
      if (!read) throw notImplemented(params.property);
      return read(rig, query);
    };
    return answer(rig, work, query);
  });
  app.put<DeviceCall>(PATH, async ({ params, body }, reply) => {
    const rig = deviceRigOf(params.rig, reply);
    const device = DEVICES[params.kind];
    if (!rig) return reply;
    if (!device || params.number !== '0') return reply.code(400).send('there is no such device');
    const work = (): void => {
      if (params.property === 'connected') {
        rig.connect(params.kind);
        return void connected.add(`${params.rig} ${params.kind}`);
      }
      if (rig.isDisconnected(params.kind)) throw notConnected();
      rig.commandedBy(body?.ClientID ?? '');
      const act = device.act[params.property];
      if (!act) throw notImplemented(params.property);
      act(rig, body ?? {});
      rig.watch();
    };
    return answer(rig, work, body ?? {});
  });
}

/** A picture as the protocol sends it, or its error in the same form. */
function pictureBytes(rig: SimulatedRig): Buffer {
  try {
    const { widthPx, heightPx, pixels } = rig.picture();
    const bytes = Buffer.alloc(HEADER_BYTES + 2 * pixels.length);
    [1, 0, 0, 0, HEADER_BYTES, 2, 8, 2, widthPx, heightPx, 0].forEach((value, i) => bytes.writeInt32LE(value, 4 * i));
    const words = new Uint16Array(bytes.buffer, bytes.byteOffset + HEADER_BYTES, pixels.length);
    for (let x = 0, at = 0; x < widthPx; x++)
      for (let y = 0; y < heightPx; y++, at++) words[at] = pixels[y * widthPx + x];
    return bytes;
  } catch (error) {
    const { errorNumber, message } = asProtocolError(error);
    const text = Buffer.from(message);
    const bytes = Buffer.alloc(HEADER_BYTES + text.length);
    [1, errorNumber, 0, 0, HEADER_BYTES].forEach((value, i) => bytes.writeInt32LE(value, 4 * i));
    text.copy(bytes, HEADER_BYTES);
    return bytes;
  }
}
