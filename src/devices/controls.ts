import { createServer } from 'node:http';
import type { IncomingMessage, Server } from 'node:http';
import { CHEMISTRIES } from '../core/chemistry';
import type { LithiumChemistry } from '../core/chemistry';
import { CHARGE_MODES } from '../core/record';
import type { ChargeMode } from '../core/record';
import { CHARGER_FAULTS } from './standCharger';
import type { ChargerFault, StandChannel } from './standCharger';
import type { StandIns } from './standIns';
import { METER_FAULTS } from './standMeter';
import type { MeterFault } from './standMeter';
import { READER_FAULTS } from './standReader';
import type { StandReader } from './standReader';

/** A plain page to work the stand-ins from: what hands would do at a real bench, and what goes wrong there. */
export function serveControls(standIns: StandIns, port: number): Promise<Server> {
  const server = createServer((req, res) => {
    const work = async () => {
      if (req.method !== 'POST') {
        res.writeHead(200, { 'content-type': 'text/html; charset=utf-8', 'cache-control': 'no-store' });
        return res.end(page(standIns));
      }
      act(standIns, await formOf(req));
      res.writeHead(303, { location: '/' });
      return res.end();
    };
    void work().catch(() => res.writeHead(400).end());
  });
  return new Promise((done, fail) => {
    server.once('error', fail);
    server.listen(port, '127.0.0.1', () => done(server));
  });
}

const LONGEST_FORM = 10_000;

async function formOf(req: IncomingMessage): Promise<URLSearchParams> {
  let body = '';
  for await (const part of req) {
    body += String(part);
    if (body.length > LONGEST_FORM) throw new Error('This form is too long.');
  }
  return new URLSearchParams(body);
}

function act(standIns: StandIns, form: URLSearchParams): void {
  const tag = (form.get('tag') ?? '').trim().toUpperCase();
  switch (form.get('do') ?? '') {
    case 'speed':
      standIns.speed = Math.min(600, Math.max(1, Number(form.get('speed')) || 1));
      return;
    case 'read':
      standIns.read(tag === '' ? null : tag);
      return;
    case 'remember':
      if (tag === '') standIns.reader?.unplug();
      else standIns.reader?.plug(tag);
      return;
    case 'count a fault':
      standIns.reader?.countFault();
      return;
    case 'update':
      standIns.reader?.update();
      return;
    case 'reader fault':
      if (standIns.reader) standIns.reader.fault = chosen(READER_FAULTS, form.get('fault')) ?? 'none';
      return;
    case 'meter fault':
      if (standIns.meter) standIns.meter.fault = chosen(METER_FAULTS, form.get('fault')) ?? 'none';
      return;
  }
  const charger = standIns.chargers[Number(form.get('charger'))]?.charger;
  const channel = charger?.channel(form.get('channel') ?? '');
  if (!charger || !channel) return;
  switch (form.get('do') ?? '') {
    case 'plug':
      standIns.plug(charger, channel.key, tag === '' ? null : tag);
      return;
    case 'set':
      channel.setting = {
        chemistry: (chosen(CHEMISTRIES, form.get('chemistry')) ?? 'lipo') as LithiumChemistry,
        mode: chosen<ChargeMode>(CHARGE_MODES, form.get('mode')) ?? 'balance',
        cells: Number(form.get('cells')) || 1,
        topMv: Math.round((Number(form.get('top')) || 4.2) * 1000),
        amps: Number(form.get('amps')) || 1,
      };
      channel.fault = chosen<ChargerFault>(CHARGER_FAULTS, form.get('fault')) ?? 'none';
      return;
    case 'start':
      charger.start(channel.key);
      return;
    case 'stop':
      charger.stop(channel.key);
      return;
  }
}

function chosen<Value extends string>(among: readonly Value[], value: string | null): Value | null {
  return among.find((one) => one === value) ?? null;
}

function page(standIns: StandIns): string {
  const { meter } = standIns;
  return `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>Stand-ins</title><style>body{font:16px/1.5 sans-serif;margin:1.5rem;max-width:60rem}fieldset{margin:1rem 0}
input,select,button{font:inherit;margin:.15rem}label{margin-right:.6rem}</style>
<h1>The bench that is not there</h1>
<p>These instruments are simulated. They speak to the register as real ones do.</p>
<datalist id="tags">${standIns.tags.map((tag) => `<option>${escaped(tag)}`).join('')}</datalist>
<form method="post"><button name="do" value="speed">Run at</button>
<label>× <input name="speed" type="number" min="1" max="600" value="${standIns.speed}"></label></form>
${meter ? meterForm(meter.plugged?.tag ?? null, meter.fault) : ''}
${standIns.reader ? readerForm(standIns.reader) : ''}
${standIns.chargers
  .map(
    ({ name, charger }, i) =>
      `<fieldset><legend>${escaped(name)}</legend>${charger.channels.map((one) => channelForm(one, i)).join('<hr>')}</fieldset>`,
  )
  .join('')}</html>`;
}

function meterForm(plugged: string | null, fault: MeterFault): string {
  return `<fieldset><legend>The meter</legend><form method="post">
<label>Pack <input name="tag" list="tags" value="${escaped(plugged ?? '')}"></label><button name="do" value="read">Plug it in (empty: unplug)</button></form>
<form method="post"><label>It ${select('fault', METER_FAULTS, fault)}</label><button name="do" value="meter fault">Set</button></form></fieldset>`;
}

function readerForm({ plugged, fault, tags }: StandReader): string {
  return `<fieldset><legend>The reader of smart packs</legend><datalist id="smart">${tags.map((tag) => `<option>${escaped(tag)}`).join('')}</datalist>
<form method="post"><label>Smart pack <input name="tag" list="smart" value="${escaped(plugged ?? '')}"></label><button name="do" value="remember">Plug it in (empty: unplug)</button></form>
<form method="post"><button name="do" value="count a fault">Let it count a fault</button><button name="do" value="update">Update its program</button></form>
<form method="post"><label>It ${select('fault', READER_FAULTS, fault)}</label><button name="do" value="reader fault">Set</button></form></fieldset>`;
}

function channelForm(channel: StandChannel, charger: number): string {
  const { key, plugged, setting, state, error, seconds, movedMah, fault } = channel;
  const hidden = `<input type="hidden" name="charger" value="${charger}"><input type="hidden" name="channel" value="${escaped(key)}">`;
  return `<section><h2>Channel ${escaped(key)}</h2><p>${state}${error ? `: ${escaped(error)}` : ''}, ${Math.round(seconds / 60)} min, ${Math.round(movedMah)} mAh</p>
<form method="post">${hidden}<label>Pack <input name="tag" list="tags" value="${escaped(plugged?.tag ?? '')}"></label><button name="do" value="plug">Plug it in (empty: unplug)</button></form>
<form method="post">${hidden}<label>Chemistry ${select('chemistry', CHEMISTRIES, setting.chemistry)}</label>
<label>Mode ${select('mode', CHARGE_MODES, setting.mode)}</label>
<label>Cells <input name="cells" type="number" min="1" max="12" value="${setting.cells}"></label>
<label>Top <input name="top" type="number" step="0.01" value="${setting.topMv / 1000}"> V</label>
<label>Current <input name="amps" type="number" step="0.1" value="${setting.amps}"> A</label>
<label>It ${select('fault', CHARGER_FAULTS, fault)}</label><button name="do" value="set">Set</button></form>
<form method="post">${hidden}<button name="do" value="start">Start</button><button name="do" value="stop">Stop</button></form></section>`;
}

function select(name: string, options: readonly string[], value: string): string {
  return `<select name="${name}">${options.map((one) => `<option${one === value ? ' selected' : ''}>${escaped(one)}`).join('')}</select>`;
}

function escaped(text: string): string {
  return text.replace(/[&<>"']/g, (one) => `&#${one.charCodeAt(0)};`);
}
