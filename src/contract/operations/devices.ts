import {
  curveAnswer,
  deviceAnswer,
  deviceLinesAnswer,
  logReadingAnswer,
  newDeviceAnswer,
} from '../answers/devices';
import { list } from '../answers/schema';
import {
  curveForm,
  deviceChange,
  deviceForm,
  logColumns,
  stopChannel,
  takeDevice,
  writeMemory,
} from '../devices';
import type { Operations } from './operation';

export const deviceOperations = {
  'GET /devices': {
    summary: 'The instruments that speak for themselves, and what they show now.',
    action: 'register.read',
    answer: list(deviceAnswer),
  },
  'POST /devices': {
    logs: { did: 'added', of: 'device' },
    summary: 'Add a device; its key is told once.',
    action: 'device.edit',
    body: deviceForm,
    answer: newDeviceAnswer,
  },
  'PUT /devices/:id': {
    logs: { did: 'changed', of: 'device' },
    summary: 'Change a device’s name or patterns.',
    action: 'device.edit',
    body: deviceChange,
    answer: deviceAnswer,
  },
  'POST /devices/:id/key': {
    logs: { did: 'made-key', of: 'device' },
    summary: 'Give a device a new key; the old one ends.',
    action: 'device.edit',
    answer: newDeviceAnswer,
  },
  'DELETE /devices/:id': {
    logs: { did: 'ended', of: 'device' },
    summary: 'End a device’s key at once. What it measured stays.',
    action: 'device.edit',
    answer: null,
  },
  'GET /devices/:id/lines': {
    summary: 'The last lines a device printed, for whoever writes its patterns.',
    action: 'device.edit',
    answer: deviceLinesAnswer,
  },
  'POST /devices/:id/take': {
    summary: 'Have a meter’s readings come to this page from now on.',
    action: 'record.reading',
    body: takeDevice,
    answer: deviceAnswer,
    status: 200,
  },
  'POST /devices/:id/stop': {
    summary: 'Tell a charger that can be stopped to stop a channel.',
    action: 'bench.charge',
    body: stopChannel,
    answer: null,
  },
  'POST /devices/:id/write': {
    summary: 'Tell a reader to write settings into the smart pack that is on it.',
    action: 'bench.charge',
    body: writeMemory,
    answer: null,
  },
  'GET /charging/jobs/:id/curve': {
    summary: 'A job as its charger told it so far.',
    action: 'register.read',
    answer: curveAnswer,
  },
  'POST /curves': {
    summary: 'Keep a charge as its charger’s own log told it, for the record that will name it.',
    action: 'record.charge',
    body: curveForm,
    answer: curveAnswer,
  },
  'GET /log-reading': {
    summary: 'How a log with these columns was read last.',
    action: 'record.charge',
    query: logColumns,
    answer: logReadingAnswer,
  },
  'GET /curves/:id': {
    summary: 'A charge as its charger told it.',
    action: 'register.read',
    answer: curveAnswer,
  },
} as const satisfies Operations;
