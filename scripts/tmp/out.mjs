// scripts/tmp/core.ts
import { readFileSync, writeFileSync } from "node:fs";
import { Session } from "node:inspector";

// src/core/assess/verdict.ts
function isOutOfUse(verdict) {
  return verdict !== "fit" && verdict !== "watch";
}

// src/core/chemistry/chemistry.ts
var CHEMISTRY = {
  lipo: {
    name: "LiPo",
    nominalMv: 3700,
    fullMv: 4200,
    plausibleMaxMv: 5e3,
    storageRangeMv: { low: 3800, high: 3850 },
    cellTaps: true
  },
  lihv: {
    name: "LiHV",
    nominalMv: 3800,
    fullMv: 4350,
    plausibleMaxMv: 5e3,
    storageRangeMv: { low: 3800, high: 3850 },
    cellTaps: true
  },
  liion: {
    name: "Li-ion",
    nominalMv: 3600,
    fullMv: 4200,
    plausibleMaxMv: 5e3,
    storageRangeMv: { low: 3600, high: 3750 },
    cellTaps: true
  },
  lifepo4: {
    name: "LiFePO4",
    nominalMv: 3200,
    fullMv: 3600,
    plausibleMaxMv: 5e3,
    storageRangeMv: { low: 3250, high: 3300 },
    cellTaps: true
  },
  nimh: {
    name: "NiMH",
    nominalMv: 1200,
    fullMv: null,
    plausibleMaxMv: 1800,
    storageRangeMv: null,
    cellTaps: false
  }
};
function isLithium(chemistry) {
  return chemistry !== "nimh";
}

// src/core/chemistry/curves.ts
var REST_VOLTS = {
  lipo: [
    4.2,
    4.15,
    4.11,
    4.08,
    4.02,
    3.98,
    3.95,
    3.91,
    3.87,
    3.85,
    3.84,
    3.82,
    3.8,
    3.79,
    3.77,
    3.75,
    3.73,
    3.71,
    3.69,
    3.61,
    3.27
  ],
  lihv: [
    4.35,
    4.27,
    4.2,
    4.15,
    4.1,
    4.06,
    4.02,
    3.98,
    3.94,
    3.9,
    3.87,
    3.85,
    3.83,
    3.8,
    3.78,
    3.76,
    3.74,
    3.72,
    3.69,
    3.63,
    3.3
  ],
  liion: [
    4.2,
    4.11,
    4.06,
    4.02,
    3.97,
    3.92,
    3.87,
    3.82,
    3.77,
    3.72,
    3.68,
    3.64,
    3.61,
    3.58,
    3.54,
    3.5,
    3.45,
    3.38,
    3.3,
    3.16,
    2.8
  ],
  lifepo4: [
    3.4,
    3.36,
    3.34,
    3.33,
    3.32,
    3.31,
    3.3,
    3.285,
    3.27,
    3.265,
    3.26,
    3.255,
    3.25,
    3.235,
    3.22,
    3.21,
    3.2,
    3.12,
    3,
    2.8,
    2.5
  ]
};
var CURVE_STEP_PERCENT = 5;
var REST_MV = {
  lipo: rising(REST_VOLTS.lipo),
  lihv: rising(REST_VOLTS.lihv),
  liion: rising(REST_VOLTS.liion),
  lifepo4: rising(REST_VOLTS.lifepo4)
};
function rising(volts) {
  return volts.map((v) => Math.round(v * 1e3)).reverse();
}

// src/core/chemistry/soc.ts
var DEFAULT_METER_ERROR_MV = 5;
function socPercent(chemistry, mv) {
  const curve = REST_MV[chemistry];
  if (mv <= curve[0]) return 0;
  const last = curve.length - 1;
  if (mv >= curve[last]) return 100;
  let i = 1;
  while (curve[i] < mv) i += 1;
  const low = curve[i - 1];
  return CURVE_STEP_PERCENT * (i - 1 + (mv - low) / (curve[i] - low));
}
function restMv(chemistry, percent) {
  const curve = REST_MV[chemistry];
  const last = curve.length - 1;
  const steps = Math.min(last, Math.max(0, percent / CURVE_STEP_PERCENT));
  const i = Math.min(last - 1, Math.floor(steps));
  return curve[i] + (steps - i) * (curve[i + 1] - curve[i]);
}
function soc(chemistry, mv, meterErrorMv) {
  return {
    percent: socPercent(chemistry, mv),
    lowPercent: socPercent(chemistry, mv - meterErrorMv),
    highPercent: socPercent(chemistry, mv + meterErrorMv)
  };
}

// src/core/record/effective.ts
function effectiveRecords(records) {
  const corrections = latestCorrections(records);
  const counting = [];
  for (const record of records) {
    if (record.kind === "correction") continue;
    const correction = corrections.get(record.id);
    const said = correction ? correction.payload.replacement : record;
    if (said === null) continue;
    counting.push({
      kind: said.kind,
      payload: said.payload,
      id: record.id,
      at: record.at,
      by: record.by,
      records: correction ? [record.id, correction.id] : [record.id]
    });
  }
  return counting.sort(byTime);
}
function latestCorrections(records) {
  const latest = /* @__PURE__ */ new Map();
  for (const record of records) {
    if (record.kind !== "correction") continue;
    const other = latest.get(record.supersedes);
    if (!other || byTime(other, record) < 0) latest.set(record.supersedes, record);
  }
  return latest;
}
function byTime(a, b) {
  return a.at - b.at || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0);
}

// src/core/measure/instant.ts
var MINUTE_MS = 6e4;
var HOUR_MS = 60 * MINUTE_MS;
var DAY_MS = 24 * HOUR_MS;
function countUpTo(list, at) {
  return countWhile(list, (one) => one.at <= at);
}
function countWhile(list, holds) {
  let [low, high] = [0, list.length];
  while (low < high) {
    const middle = low + high >> 1;
    if (holds(list[middle])) low = middle + 1;
    else high = middle;
  }
  return low;
}

// src/core/lifecycle/life.ts
var IN_SERVICE = {
  state: "in-service",
  since: null,
  by: null,
  decisionId: null,
  decidedBy: null,
  retiredAt: null,
  consignmentId: null,
  apart: false,
  charged: false,
  records: []
};
var FLAT_MV = 100;
var FROM = {
  marked: ["retired"],
  discharging: ["marked"],
  verified: ["discharging", "resting"],
  unsafe: ["marked", "discharging", "resting"],
  insulated: ["flat", "unsafe"],
  "insulated-charged": ["marked"],
  binned: ["insulated"],
  consigned: ["binned"],
  "taken-back": ["consigned"],
  recycled: ["consigned"],
  // Only before its discharge.
  reinstated: ["retiring", "retired", "marked"]
};
function isInService({ state }) {
  return state === "in-service" || state === "retiring";
}
function stateAfter(state, payload) {
  if (!FROM[payload.step].includes(state)) return null;
  switch (payload.step) {
    case "marked":
    case "discharging":
    case "unsafe":
    case "insulated":
    case "binned":
    case "consigned":
    case "recycled":
      return payload.step;
    case "insulated-charged":
      return "insulated";
    case "verified":
      if (payload.cellsMv.some((mv) => mv > FLAT_MV)) return "discharging";
      return state === "resting" ? "flat" : "resting";
    case "taken-back":
      return "binned";
    case "reinstated":
      return "in-service";
    default:
      return payload;
  }
}
function lifeAfterStep(life, event) {
  const { payload, at, by, id } = event;
  const state = stateAfter(life.state, payload);
  if (state === null) return life;
  if (state === "in-service") return { ...IN_SERVICE, records: [...life.records, id] };
  return {
    ...life,
    state,
    since: at,
    by,
    apart: life.apart || state === "unsafe",
    charged: life.charged || payload.step === "insulated-charged",
    consignmentId: "consignmentId" in payload && state !== "binned" ? payload.consignmentId : null,
    records: [...life.records, id]
  };
}
function lifeAfterRetirement(life, event) {
  if (!isInService(life)) return life;
  const { at, by, id, secondWanted } = event;
  return {
    ...IN_SERVICE,
    state: secondWanted ? "retiring" : "retired",
    since: at,
    by,
    decisionId: id,
    decidedBy: by,
    retiredAt: secondWanted ? null : at,
    records: [...life.records, id]
  };
}
function lifeAfterSecondName(life, event) {
  const { at, by, id, decisionId } = event;
  if (life.state !== "retiring" || life.decisionId !== decisionId || life.decidedBy === by) return life;
  return { ...life, state: "retired", since: at, by, retiredAt: at, records: [...life.records, id] };
}

// src/core/record/memory.ts
function faultsOf({
  overCharges,
  overDischarges,
  overTemperatures
}) {
  if (overCharges === null || overDischarges === null || overTemperatures === null) return null;
  return overCharges + overDischarges + overTemperatures;
}
var LONGEST_WAIT_HOURS = 240;
function reliedOn(stated, events) {
  if (stated === null) return null;
  let relied = stated;
  for (const { did, memory } of events) {
    const storage = memory?.storage ?? null;
    if (did === "updated") relied = { ...relied, autoStorage: false };
    else if (storage) relied = did === "read" ? asSettings(storage, relied) : theWorse(relied, storage);
  }
  return relied;
}
function asSettings({ isOn, afterHours }, before) {
  if (afterHours !== null) return { autoStorage: isOn, autoStorageAfterHours: afterHours };
  const kept = before.autoStorage ? before.autoStorageAfterHours : LONGEST_WAIT_HOURS;
  return { autoStorage: isOn, autoStorageAfterHours: kept };
}
function theWorse(relied, { isOn, afterHours }) {
  return {
    autoStorage: relied.autoStorage && isOn,
    autoStorageAfterHours: Math.max(relied.autoStorageAfterHours, afterHours ?? 0)
  };
}
function asSet(stated, events) {
  let known2 = {
    number: null,
    storage: { isOn: stated.autoStorage, afterHours: stated.autoStorageAfterHours, mv: null },
    topMv: null,
    chargeA: null,
    firmware: null,
    firmwareDate: null,
    notReadBack: null,
    read: null,
    unreadable: null
  };
  for (const event of events) {
    const { did, memory } = event;
    if (memory === null) {
      if (did === "read") known2 = { ...known2, unreadable: event };
      else known2 = { ...known2, notReadBack: event };
      continue;
    }
    known2 = {
      number: memory.number ?? known2.number,
      storage: mergedStorage(known2.storage, memory.storage),
      topMv: memory.topMv ?? known2.topMv,
      chargeA: memory.chargeA ?? known2.chargeA,
      firmware: memory.firmware ?? known2.firmware,
      firmwareDate: memory.firmwareDate ?? known2.firmwareDate,
      notReadBack: did !== "read" ? event : isReadBack(known2.notReadBack, memory) ? null : known2.notReadBack,
      read: did === "read" ? event : known2.read,
      unreadable: did === "read" ? null : known2.unreadable
    };
  }
  return known2;
}
function mergedStorage(known2, said) {
  if (said === null || known2 === null) return said ?? known2;
  return { isOn: said.isOn, afterHours: said.afterHours ?? known2.afterHours, mv: said.mv ?? known2.mv };
}
function isReadBack(work, read) {
  if (work === null) return true;
  if (work.did === "updated" || work.memory === null) return read.storage !== null;
  return settingsOf(work.memory).every(({ of, value }) => value === null || settingOf(read, of) !== null);
}
var MEMORY_SETTINGS = ["storage", "delay", "storage-volts", "top", "current"];
function settingOf({ storage, topMv, chargeA }, of) {
  switch (of) {
    case "storage":
      return storage?.isOn ?? null;
    case "delay":
      return storage?.isOn ? storage.afterHours : null;
    case "storage-volts":
      return storage?.isOn ? storage.mv : null;
    case "top":
      return topMv;
    case "current":
      return chargeA;
    default:
      return of;
  }
}
function settingsOf(memory) {
  return MEMORY_SETTINGS.map((of) => ({ of, value: settingOf(memory, of) }));
}

// src/core/record/fold.ts
function fold(pack, records) {
  const readings = [];
  const resistances = [];
  const charges = [];
  const flights = [];
  const inspections = [];
  const moves = [];
  const incidents = [];
  const asked = [];
  const decisions = [];
  const recoveries = [];
  const memories = [];
  const counts = [];
  let life = IN_SERVICE;
  let receivedAt = null;
  let before = null;
  let placeId = null;
  let slot = null;
  let holderId = null;
  let custody = null;
  const takings = [];
  let lastRecordAt = null;
  for (const record of effectiveRecords(records)) {
    lastRecordAt = record.at;
    switch (record.kind) {
      case "received":
        receivedAt = record.at;
        before = record.payload.before ?? null;
        placeId = record.payload.placeId;
        moves.push({ at: record.at, placeId, slot, holderId });
        break;
      case "reading":
        readings.push(readingEvent(record));
        break;
      case "resistance":
        resistances.push(resistanceEvent(record));
        break;
      case "charge": {
        const charge = chargeEvent(record);
        charges.push(charge);
        if (charge.startCellsMv) insertByTime(readings, startReading(charge, charge.startCellsMv));
        break;
      }
      case "flight": {
        const flight = flightEvent(record);
        flights.push(flight);
        if (flight.landing) insertByTime(readings, landingReading(flight, flight.landing));
        break;
      }
      case "inspection":
        inspections.push(inspectionEvent(record));
        break;
      case "moved":
        placeId = record.payload.placeId;
        slot = record.payload.slot ?? null;
        if (record.payload.holderId !== holderId) endTaking(takings, record.at);
        custody = custodyAfterMove(custody, record);
        holderId = record.payload.holderId;
        moves.push({ at: record.at, placeId, slot, holderId });
        break;
      case "taken-out":
        custody = custodyAfterTakingOut(custody, record);
        placeId = null;
        slot = null;
        holderId = custody.holderId;
        endTaking(takings, record.at);
        takings.push(takingEvent(record, holderId));
        count(counts, record, record.payload.counters);
        moves.push({ at: record.at, placeId, slot, holderId });
        break;
      case "returned":
        endTaking(takings, record.at);
        count(counts, record, record.payload.counters);
        custody = null;
        placeId = record.payload.placeId;
        slot = record.payload.slot ?? null;
        holderId = null;
        moves.push({ at: record.at, placeId, slot, holderId });
        break;
      case "memory": {
        memories.push({ ...happened(record), ...record.payload });
        const { did, memory } = record.payload;
        if (did === "read" && memory)
          count(counts, record, { cycles: memory.cycles, faults: faultsOf(memory) });
        break;
      }
      case "note":
        break;
      case "incident":
        incidents.push({ ...happened(record), ...record.payload, endedEarly: null });
        break;
      case "watch-ended": {
        const ended = { ...happened(record), ...record.payload };
        const which = incidents.findIndex(({ incidentId }) => incidentId === ended.incidentId);
        if (which !== -1) incidents[which] = { ...incidents[which], endedEarly: ended };
        break;
      }
      case "inspection-asked":
        asked.push({ ...happened(record), ...record.payload });
        break;
      case "decision":
        decisions.push({ ...happened(record), ...record.payload });
        if (record.payload.what.to === "retire") {
          const { secondWanted } = record.payload.what;
          life = lifeAfterRetirement(life, { ...stamp(record), secondWanted });
        }
        break;
      case "confirmation":
        life = lifeAfterSecondName(life, { ...stamp(record), decisionId: record.payload.decisionId });
        break;
      case "recovery":
        recoveries.push({ ...happened(record), ...record.payload });
        break;
      case "disposal":
        life = lifeAfterStep(life, { ...stamp(record), payload: record.payload });
        if (record.payload.step === "binned" || record.payload.step === "recycled") {
          placeId = record.payload.step === "binned" ? record.payload.placeId : null;
          slot = null;
          holderId = null;
          endTaking(takings, record.at);
          custody = null;
          moves.push({ at: record.at, placeId, slot, holderId });
        }
        break;
      default:
        record;
    }
  }
  return {
    pack: memories.length === 0 ? pack : { ...pack, smart: reliedOn(pack.smart, memories) },
    receivedAt,
    before,
    readings,
    resistances,
    charges,
    flights,
    inspections,
    moves,
    incidents,
    asked,
    decisions,
    recoveries,
    memories,
    counts,
    life,
    placeId,
    slot,
    holderId,
    custody,
    takings,
    lastRecordAt
  };
}
function custodyAfterMove(known2, { at, payload }) {
  const { holderId } = payload;
  if (holderId === null) return null;
  if (known2?.holderId === holderId && known2.alsoWith === null) return known2;
  return { holderId, since: at, recordId: null, craftId: null, dueBackAt: null, alsoWith: null };
}
function custodyAfterTakingOut(known2, { id, at, by, payload }) {
  const { fromId, craftId, dueBackAt } = payload;
  const holderId = payload.holderId ?? by;
  const { holderId: person, since, recordId } = known2 ?? {};
  const unknown = person !== void 0 && person !== fromId && person !== holderId;
  return {
    holderId,
    since: at,
    recordId: id,
    craftId,
    dueBackAt,
    alsoWith: unknown ? { person, since, recordId } : null
  };
}
function takingEvent({ at, by, records, payload }, holderId) {
  const { craftId, dueBackAt } = payload;
  return { at, by, records, holderId, craftId, dueBackAt, endedAt: null };
}
function endTaking(takings, at) {
  const last = takings.at(-1);
  if (last?.endedAt === null) takings[takings.length - 1] = { ...last, endedAt: at };
}
function count(counts, { at, by, records }, read) {
  if (read && (read.cycles !== null || read.faults !== null)) counts.push({ at, by, records, ...read });
}
function happened({ at, by, records }) {
  return { at, by, records };
}
function stamp({ at, by, id }) {
  return { at, by, id };
}
var ON_BOARD_ERROR_MV = 10;
var ASSUMED_CHARGE_MINUTES = 60;
function resistanceEvent({ at, by, records, payload }) {
  const { irMilliohm, temperatureC, instrument, remarks } = payload;
  return { at, by, records, irMilliohm, temperatureC, instrument, remarks };
}
function chargeEvent(record) {
  const { at, by, records, payload } = record;
  return {
    at,
    by,
    records,
    startedAt: record.at - (payload.minutes ?? ASSUMED_CHARGE_MINUTES) * MINUTE_MS,
    mode: payload.mode,
    charger: payload.charger,
    settings: payload.settings,
    startCellsMv: payload.startCellsMv,
    endCellsMv: payload.endCellsMv,
    movedMah: payload.movedMah,
    minutes: payload.minutes,
    temperatureC: payload.temperatureC,
    felt: payload.felt ?? null,
    balanced: payload.balanced,
    ending: payload.ending,
    remarks: payload.remarks,
    bench: payload.bench ?? null
  };
}
function flightEvent(record) {
  const { at, by, records, payload } = record;
  return {
    at,
    by,
    records,
    startedAt: record.at - (payload.minutes ?? 0) * MINUTE_MS,
    pilot: payload.flownBy ? null : payload.pilotId ?? by,
    pilotId: payload.pilotId,
    flownBy: payload.flownBy ?? null,
    craft: payload.craft,
    craftId: payload.craftId ?? null,
    craftSetup: payload.craftSetup ?? null,
    minutes: payload.minutes,
    landing: payload.landing,
    usedMah: payload.usedMah,
    hottestC: payload.hottestC,
    felt: payload.felt ?? null,
    ambientC: payload.ambientC,
    remarks: payload.remarks
  };
}
function inspectionEvent({ at, by, records, payload }) {
  const { occasion, items, swelling, thicknessMm, massG, felt, remarks } = payload;
  return { at, by, records, occasion, items, swelling, thicknessMm, massG, felt: felt ?? null, remarks };
}
function landingReading({ at, by, records }, landing) {
  const { volts, condition } = landing;
  return { at, by, volts, condition, meterErrorMv: ON_BOARD_ERROR_MV, records };
}
function readingEvent(record) {
  return {
    at: record.at,
    by: record.by,
    volts: record.payload.volts,
    condition: record.payload.condition,
    meterErrorMv: record.payload.meterErrorMv,
    records: record.records
  };
}
function startReading(charge, cellsMv) {
  return {
    at: charge.startedAt,
    by: charge.by,
    volts: { of: "cells", cellsMv },
    condition: "rested",
    meterErrorMv: ON_BOARD_ERROR_MV,
    records: charge.records
  };
}
function insertByTime(readings, reading) {
  let place = readings.length;
  while (place > 0 && readings[place - 1].at > reading.at) place -= 1;
  readings.splice(place, 0, reading);
}

// src/core/record/chargeFacts.ts
function chargeRateC({
  settings,
  movedMah,
  minutes
}, capacityMah) {
  if (settings.currentA !== null) return settings.currentA * 1e3 / capacityMah;
  return movedMah === null || !minutes ? null : movedMah * 60 / minutes / capacityMah;
}
function putsIn({ mode }) {
  return mode === "balance" || mode === "fast";
}

// src/core/assess/charged.ts
function chargedOf({ history, rules, contents }) {
  const { pack, charges, flights } = history;
  if (isLithium(pack.chemistry)) return chargedBy(contents, rules);
  const charge = charges.findLast(putsIn);
  if (!charge) return "unknown";
  return flights.some(({ at }) => at > charge.at) ? "charge-first" : "charged";
}
function chargedBy(contents, { flight }) {
  if (!contents) return "unknown";
  const { percent, lowPercent, highPercent } = contents.lowest;
  const line = flight.chargedPercent;
  if (contents.basis === "used" && lowPercent === 0 && highPercent >= line) return "unknown";
  return percent >= line - 1e-9 ? "charged" : "charge-first";
}

// src/core/inspection/checklistAnswers.ts
function thickerPercent(thicknessMm, baselineMm) {
  return (thicknessMm - baselineMm) * 100 / baselineMm;
}

// src/core/inspection/checklist.ts
var MEANINGS = ["advise", "watch", "hold"];
var HARD_KEYS = /* @__PURE__ */ new Set(["swelling", "dents", "leads", "smell"]);
var item = (key, asks, failMeans, photo = "never") => ({
  key,
  asks,
  failMeans,
  photo
});
var SWELLING = item("swelling", "Swelling", "hold", "when not ok");
var DENTS = item("dents", "Dents, creases, punctures", "hold", "when not ok");
var CASE = item("case", "Case and wrap", "watch");
var LEADS = item("leads", "Leads", "hold");
var CONNECTOR = item("connector", "Main connector", "watch");
var BALANCE = item("balance", "Balance lead and pins", "watch");
var SMELL = item("smell", "Odour or leak", "hold");
var LABEL = item("label", "Tag and label", "advise");
var WARM = item("warm", "Warmth at rest", "hold");
var DEFAULT_CHECKLISTS = {
  "before-use": [SWELLING, DENTS, LEADS, CONNECTOR, BALANCE, LABEL],
  "after-use": [WARM, SWELLING, DENTS, LEADS, CONNECTOR, SMELL],
  "before-charge": [SWELLING, DENTS, LEADS, CONNECTOR, BALANCE, WARM],
  "after-charge": [WARM, SWELLING, SMELL, BALANCE],
  "season-start": [SWELLING, DENTS, CASE, SMELL, LEADS, CONNECTOR, BALANCE, LABEL],
  "after-crash": [SMELL, WARM, SWELLING, DENTS, CASE, LEADS, CONNECTOR, BALANCE],
  scheduled: [SWELLING, DENTS, CASE, SMELL, LEADS, CONNECTOR, BALANCE, LABEL, WARM],
  receipt: [LABEL, SWELLING, DENTS, CASE, SMELL, LEADS, CONNECTOR, BALANCE]
};
var FULL_OCCASIONS = /* @__PURE__ */ new Set([
  "season-start",
  "after-crash",
  "scheduled",
  "receipt"
]);
function meaningOf(key, said) {
  return HARD_KEYS.has(key) ? "hold" : said;
}

// src/core/assess/ruleFacts.ts
var RULE_FACTS = {
  incident: { takesOut: "lasting", answeredByLook: true },
  "second-name": { takesOut: "lasting" },
  recovery: { takesOut: "lasting" },
  "held-by-hand": { takesOut: "event" },
  swollen: { takesOut: "event", card: "swelling" },
  "inspection-failed": { takesOut: "event" },
  "over-discharged": { takesOut: "lasting", card: "over-discharged" },
  "damage-floor": { takesOut: "lasting", card: "over-discharged" },
  overfull: { takesOut: "event", abnormalCharge: true, card: "overcharged" },
  "wrong-setting": { takesOut: "event", abnormalCharge: true, card: "overcharged" },
  "charge-implausible": { takesOut: "event", abnormalCharge: true, card: "overcharged" },
  "hot-use": { takesOut: "event", card: "overheated" },
  "hot-charge": { takesOut: "event", abnormalCharge: true, card: "hot-charging" },
  "over-discharge-event": {},
  "recharge-soon": { timed: true, asks: "hands" },
  cooling: { beforeFlying: "look", asks: "hands" },
  unmeasured: { timed: true, beforeFlying: "measure" },
  "not-known": { timed: true, beforeFlying: "measure", asks: "hands" },
  "field-charged": { timed: true, asks: "hands" },
  "self-storing": { timed: true, asks: "hands" },
  "storage-high": { timed: true, asks: "hands" },
  "storage-low": { timed: true, asks: "hands" },
  "storage-pending": { timed: true, asks: "hands" },
  spread: { takesOut: "trend" },
  "weak-cell": { takesOut: "trend" },
  "cell-drift": {},
  "weakest-again": { takesOut: "trend" },
  "charge-failed": { takesOut: "trend" },
  "shelf-loss": { timed: true },
  "resistance-growth": { takesOut: "trend" },
  "resistance-siblings": { takesOut: "trend" },
  "resistance-jump": {},
  capacity: { takesOut: "trend" },
  "run-time": { takesOut: "trend" },
  "wears-faster": { timed: true },
  "not-as-delivered": { timed: true },
  "long-full": { timed: true },
  cycles: {},
  age: { timed: true },
  "landed-low": {},
  "two-hands": {},
  "deep-use": { asks: "hands" },
  "charge-habits": { asks: "hands" },
  "balance-due": { asks: "hands" },
  "smart-settings": { asks: "hands" },
  "memory-unread": { asks: "hands" },
  "own-faults": { asks: "hands" },
  "cold-use": { asks: "hands" },
  "not-rested": { asks: "hands" },
  unlogged: {},
  "inspection-asked": { beforeFlying: "look" },
  "long-rest": { timed: true, beforeFlying: "look", asks: "routine" },
  "baseline-missing": { asks: "routine" },
  "nimh-top-up": { timed: true, asks: "routine" },
  "inspection-due": { timed: true, asks: "routine" },
  idle: { timed: true, asks: "routine" }
};

// src/core/assess/times.ts
function timesOf(history) {
  const { readings, resistances, charges, flights, inspections, incidents, decisions, recoveries } = history;
  const times = /* @__PURE__ */ new Map();
  for (const list of [readings, resistances, charges, flights, inspections, incidents, decisions, recoveries])
    for (const { at, records } of list) for (const id of records) times.set(id, at);
  return times;
}

// src/core/assess/answered.ts
function answered({ history, now }, findings) {
  const releases = releasesOf(history);
  if (releases.length === 0) return findings;
  return findings.map((finding3) => {
    if (!speaksAgainstUse(finding3)) return finding3;
    const release = answerTo(history, releases, finding3, now);
    if (!release) return finding3;
    const { at, by, what } = release;
    const severity = isWatching(what.watch, now) ? "watch" : "note";
    return { ...finding3, severity, answered: { at, by, watch: what.watch } };
  });
}
function speaksAgainstUse({ severity }) {
  return severity === "hold" || severity === "retire";
}
function byAnswer({ history }, rule, events) {
  const known2 = new Set(
    releasesOf(history).flatMap(
      ({ what }) => what.answers.filter((answer) => answer.rule === rule).flatMap(({ records }) => records)
    )
  );
  if (known2.size === 0) return { fresh: events, old: [] };
  const isKnown = ({ records }) => records.every((id) => known2.has(id));
  return { fresh: events.filter((one) => !isKnown(one)), old: events.filter(isKnown) };
}
function releasesOf({ decisions }) {
  return decisions.filter((one) => one.what.to === "release");
}
function answerTo(history, releases, finding3, now) {
  const about = releases.filter(({ what }) => what.answers.some(({ rule }) => rule === finding3.rule));
  if (about.length === 0) return null;
  if (isTrend(finding3)) {
    return about.findLast(
      ({ what }) => typeof what.watch === "object" && now < what.watch.until && what.answers.some((answer) => answer.rule === finding3.rule && isAbout(answer, finding3))
    ) ?? null;
  }
  const valid = about.filter((release) => stillStands(history, release, finding3));
  const known2 = new Set(
    valid.flatMap(
      ({ what }) => what.answers.filter(({ rule }) => rule === finding3.rule).flatMap(({ records }) => records)
    )
  );
  if (!finding3.records.every((id) => known2.has(id))) return null;
  return valid.findLast(
    ({ what }) => what.answers.some(
      ({ rule, records }) => rule === finding3.rule && (finding3.records.length === 0 || records.some((id) => finding3.records.includes(id)))
    )
  ) ?? null;
}
function isTrend({ rule, severity }) {
  return severity === "retire" && RULE_FACTS[rule].takesOut !== "lasting";
}
function subjectOf(finding3) {
  if (finding3.rule === "weak-cell") return { cell: finding3.cell, value: finding3.belowMv };
  if (finding3.rule === "spread") return { cell: finding3.lowestCell, value: finding3.mv };
  if (finding3.rule === "weakest-again") return { cell: finding3.cell, value: finding3.timesAgain };
  if (finding3.rule === "resistance-growth" || finding3.rule === "resistance-siblings")
    return { cell: finding3.cell, value: finding3.factor };
  if (finding3.rule === "capacity") return { cell: null, value: 100 - finding3.percent };
  return { cell: null, value: finding3.rule === "run-time" ? finding3.percent : null };
}
var WORSE = 1.5;
function isAbout(answer, finding3) {
  const { cell, value } = subjectOf(finding3);
  if (cell !== null && answer.cell !== null && answer.cell !== void 0 && answer.cell !== cell)
    return false;
  if (value === null || answer.value === null || answer.value === void 0) return true;
  return value < answer.value * WORSE;
}
function stillStands(history, release, { rule }) {
  const { takesOut, answeredByLook } = RULE_FACTS[rule];
  if (takesOut !== "event" && !answeredByLook) return true;
  const happened2 = new Set(
    release.what.answers.filter((answer) => answer.rule === rule).flatMap(({ records }) => records)
  );
  const times = timesOf(history);
  const since = Math.max(0, ...[...happened2].map((id) => times.get(id) ?? 0));
  const between = ({ at, records }) => at >= since && at <= release.at + CLOCK_SLACK_MS && !records.some((id) => happened2.has(id));
  const { inspections, readings } = history;
  return inspections.some((look) => FULL_OCCASIONS.has(look.occasion) && between(look)) && readings.some((reading) => reading.condition === "rested" && between(reading));
}
var CLOCK_SLACK_MS = 2 * MINUTE_MS;
function isWatching(watch, now) {
  if (watch === "for-good") return true;
  return watch !== "none" && now < watch.until;
}

// src/core/incident/kinds.ts
var facts = (holds, watch, mayReturn = true, harms = false) => ({ holds, watch, mayReturn, harms });
var INCIDENT_FACTS = {
  crash: facts("yes", "shock"),
  "smoke-fire": facts("yes", "overnight", false, true),
  "hot-charging": facts("yes", "overnight"),
  swelling: facts("yes", null, true, true),
  overheated: facts("yes", "shock"),
  leak: facts("yes", "overnight", false, true),
  short: facts("yes", "shock"),
  overcharged: facts("yes", "overnight"),
  "over-discharged": facts("yes", null),
  "damaged-lead": facts("yes", null),
  water: facts("yes", "overnight"),
  "charge-failed": facts("no", null),
  unattended: facts("no", null),
  lost: facts("yes", null),
  other: facts("ask", null)
};

// src/core/assess/harm.ts
var HARM_KEYS = /* @__PURE__ */ new Set(["swelling", "dents", "smell"]);
function harmOf(findings) {
  return findings.filter((finding3) => {
    if (finding3.answered) return false;
    if (finding3.rule === "swollen") return finding3.swelling !== null || finding3.severity === "hold";
    if (finding3.rule === "inspection-failed") return finding3.failures.some(({ key }) => HARM_KEYS.has(key));
    return finding3.rule === "incident" && (INCIDENT_FACTS[finding3.kind].harms || finding3.deformed.length > 0);
  });
}

// src/core/reading/condition.ts
var DECIDES = {
  rested: { storage: true, spread: true },
  settling: { storage: false, spread: false },
  loaded: { storage: false, spread: false }
};
function conditionHeld(claimed, at, lastLoadedAt, restMinutes) {
  if (claimed !== "rested" || lastLoadedAt === null) return claimed;
  return at - lastLoadedAt < restMinutes * MINUTE_MS ? "settling" : "rested";
}

// src/core/storage/band.ts
function bandSide(cellsMv, rule) {
  if (Math.min(...cellsMv) < rule.bandLowMv) return "low";
  if (Math.max(...cellsMv) > rule.bandHighMv) return "high";
  return "in-band";
}

// src/core/storage/carried.ts
var SELF_DISCHARGE_PERCENT_PER_MONTH = 3;
var MONTH_MS = 30 * DAY_MS;
function leakedPercent(ms) {
  return SELF_DISCHARGE_PERCENT_PER_MONTH * Math.max(0, ms) / MONTH_MS;
}
var TAPER_PERCENT = 92.5;
var TAPER_UNSURE = 2.5;
var SURFACE_UNSURE = 3;
var LOOSE_UNSURE = 15;
var COUNTED_UNSURE = 0.05;
var LEFT_AFTER_UNNOTED = 20;
function carry(pack, evidence, rules, until, capacityAt = () => pack.capacityMah) {
  const { chemistry } = pack;
  if (!isLithium(chemistry)) return NOTHING;
  const storedPercent = socPercent(chemistry, rules.storage[chemistry].targetMv);
  const past = [];
  const before = [];
  let held = null;
  let last = null;
  for (const one of evidence) {
    if (one.at > until) break;
    if (last && one.at > last.at) {
      past.push(...restingFrom(pack, last, held, one.at, storedPercent, rules.bleedDays));
      held = held && carriedTo(held, pack, last.at, one.at, storedPercent, rules.bleedDays);
    }
    if (held && one.kind !== "read" && one.kind !== "used") before.push(begun(one.records, held));
    held = after(held, one, capacityAt(one.at), chemistry, storedPercent);
    last = one;
  }
  return carriedOn({ pack, rules, past, before, held, last, storedPercent }, until);
}
var NOTHING = { past: [], open: [], contents: null, before: [], until: () => NOTHING };
function carriedOn(base, until) {
  const { pack, rules, past, before, held, last, storedPercent } = base;
  const goesOn = last !== null && until > last.at;
  const now = held && goesOn ? carriedTo(held, pack, last.at, until, storedPercent, rules.bleedDays) : held;
  const open = goesOn ? restingFrom(pack, last, held, until, storedPercent, rules.bleedDays) : [];
  return {
    past,
    open,
    contents: now && contentsOf(now),
    before,
    until: (later) => last === null || later < last.at ? null : carriedOn(base, later)
  };
}
function restingFrom(pack, { at, kind }, held, to, storedPercent, bleedDays) {
  const known2 = kind !== "used" && kind !== "unknown";
  const percent = held ? Math.max(...held.percents) : storedPercent;
  return leftAlone(pack, at, to, percent, storedPercent, bleedDays, known2);
}
function begun(records, held) {
  return { records, contents: () => contentsOf(held) };
}
function after(before, one, capacityMah, chemistry, storedPercent) {
  switch (one.kind) {
    case "read": {
      const error = one.meterErrorMv ?? DEFAULT_METER_ERROR_MV;
      const percents = [];
      let [less, more] = [0, 0];
      for (const mv of one.cellsMv) {
        const percent = socPercent(chemistry, mv);
        percents.push(percent);
        less = Math.max(less, percent - socPercent(chemistry, mv - error));
        more = Math.max(more, socPercent(chemistry, mv + error) - percent);
      }
      return heldAs("read", one, percents, less, more);
    }
    case "charged": {
      const percents = one.cellsMv.map((mv) => socPercent(chemistry, mv));
      if (one.how !== "taper")
        return heldAs("charged", one, percents, one.how === "loose" ? LOOSE_UNSURE : SURFACE_UNSURE, 0);
      const short = percents.map((percent) => percent * TAPER_PERCENT / 100);
      return heldAs("taper", one, short, TAPER_UNSURE, TAPER_UNSURE);
    }
    case "filled": {
      if (!before) return null;
      const put = one.movedMah / capacityMah * 100;
      const percents = before.percents.map((percent) => Math.min(100, percent + put));
      const unsure2 = COUNTED_UNSURE * put;
      const most = before.mostPercents.map((percent) => Math.min(100, percent + put + unsure2));
      return { ...heldAs("filled", one, percents, before.less + unsure2, 0), mostPercents: most };
    }
    case "stored":
      return heldAs("stored", one, [storedPercent], SURFACE_UNSURE, SURFACE_UNSURE);
    case "used": {
      if (!before) return null;
      if (one.usedMah === null) {
        const percents2 = before.percents.map((percent) => Math.min(percent, LEFT_AFTER_UNNOTED));
        return { ...heldAs("used", one, percents2, 100, 0), mostPercents: before.mostPercents };
      }
      const taken = one.usedMah / capacityMah * 100;
      const percents = before.percents.map((percent) => Math.max(0, percent - taken));
      const unsure2 = COUNTED_UNSURE * taken;
      const most = before.mostPercents.map((percent) => Math.max(0, percent - taken + unsure2));
      return { ...heldAs("used", one, percents, before.less + unsure2, 0), mostPercents: most };
    }
    case "unknown":
      return null;
    default:
      return one;
  }
}
function heldAs(basis, { at: since, records }, percents, less, more) {
  const mostPercents = percents.map((percent) => Math.min(100, percent + more));
  return { basis, since, percents, less, mostPercents, records };
}
function carriedTo(held, { smart }, from, to, storedPercent, bleedDays) {
  const leaked = leakedPercent(to - from);
  const bleedFrom = smart?.autoStorage ? from + smart.autoStorageAfterHours * HOUR_MS : Infinity;
  const bled = Math.min(1, Math.max(0, to - bleedFrom) / (bleedDays * DAY_MS));
  const percents = [];
  let most = 0;
  for (const percent of held.percents) {
    const leakedTo = Math.max(0, percent - leaked);
    const now = leakedTo > storedPercent ? leakedTo - (leakedTo - storedPercent) * bled : leakedTo;
    percents.push(now);
    most = Math.max(most, percent);
  }
  const isBled = bled === 1 && most > storedPercent;
  return {
    basis: isBled ? "bled" : held.basis,
    since: isBled ? bleedFrom + bleedDays * DAY_MS : held.since,
    percents,
    less: held.less + leaked,
    mostPercents: held.mostPercents,
    records: held.records
  };
}
function contentsOf({ basis, since, percents, less, mostPercents, records }) {
  const told4 = (percent, highPercent) => ({
    percent,
    lowPercent: Math.max(0, percent - less),
    highPercent: Math.max(percent, highPercent)
  });
  return {
    basis,
    since,
    percents,
    lowest: told4(Math.min(...percents), Math.min(...mostPercents)),
    highest: told4(Math.max(...percents), Math.max(...mostPercents)),
    records
  };
}
function leftAlone({ smart }, from, to, percent, storedPercent, bleedDays, known2) {
  if (!smart?.autoStorage || percent <= storedPercent) return resting(from, to, percent, known2);
  const bleedFrom = from + smart.autoStorageAfterHours * HOUR_MS;
  const bleedTo = bleedFrom + bleedDays * DAY_MS;
  const waiting = resting(from, Math.min(to, bleedFrom), percent, known2);
  if (to <= bleedFrom) return waiting;
  const begin = waiting.at(-1).toPercent;
  const share = (Math.min(to, bleedTo) - bleedFrom) / (bleedTo - bleedFrom);
  const bled = begin - Math.max(0, begin - storedPercent) * share;
  const end = Math.min(to, bleedTo);
  const bleeding = { from: bleedFrom, to: end, fromPercent: begin, toPercent: bled, known: known2 };
  return to <= bleedTo ? [...waiting, bleeding] : [...waiting, bleeding, ...resting(bleedTo, to, bled, known2)];
}
function resting(from, to, fromPercent, known2) {
  const emptyAt = from + fromPercent / SELF_DISCHARGE_PERCENT_PER_MONTH * MONTH_MS;
  if (to <= emptyAt)
    return [{ from, to, fromPercent, toPercent: fromPercent - leakedPercent(to - from), known: known2 }];
  const empty = { from: emptyAt, to, fromPercent: 0, toPercent: 0, known: known2 };
  return emptyAt > from ? [{ from, to: emptyAt, fromPercent, toPercent: 0, known: known2 }, empty] : [empty];
}
function contentsMv(chemistry, { percents }) {
  return percents.map((percent) => Math.round(restMv(chemistry, percent)));
}

// src/core/storage/clock.ts
function storageState(pack, evidence, rules, now) {
  const { chemistry } = pack;
  if (!isLithium(chemistry)) return { state: "no-rule" };
  const clockState = standing(evidence, chemistry, rules);
  if (clockState.state === "unmeasured") {
    const { used } = clockState;
    const why = used ? "used" : "never";
    return { state: "unmeasured", why, since: used?.at ?? null, records: used?.records ?? [] };
  }
  const last = evidence.at(-1);
  const lapsed = (at, records2) => now < at ? null : { state: "unmeasured", why: "lapsed", since: at, records: records2 };
  const { since, records } = clockState;
  if (clockState.state === "pending") {
    const state2 = { state: "pending", by: "job", since, records };
    return lapsed(lapsesAt(chemistry, last, rules), records) ?? state2;
  }
  if (clockState.state === "in-band")
    return lapsed(lapsesAt(chemistry, last, rules), records) ?? { state: "in-band", since, records };
  const { state, fieldChargedAt } = clockState;
  const bledAt = state === "high" ? selfStoredAt(pack, last.at, rules) : null;
  if (bledAt !== null && now >= bledAt) {
    const stored = { ...last, at: bledAt, kind: "stored" };
    const pending = { state: "pending", by: "own-bleed", since: bledAt, records };
    return lapsed(lapsesAt(chemistry, stored, rules), records) ?? pending;
  }
  const leaked = state === "high" ? lapsed(leakedIntoBandAt(chemistry, last, rules), records) : null;
  if (leaked) return leaked;
  const allowanceHours = allowance(pack, state, rules);
  const ownDelay = pack.smart?.autoStorageAfterHours ?? Infinity;
  if (bledAt !== null && ownDelay <= allowanceHours && fieldChargedAt === null)
    return { state: "self-storing", since, bledAt, records };
  const dueAt = Math.min(
    since + allowanceHours * HOUR_MS,
    fieldChargedAt === null ? Infinity : fieldChargedAt + rules.charge.fieldHours * HOUR_MS
  );
  return { state, since, allowanceHours, dueAt, bledAt, fieldChargedAt, records };
}
var stood = /* @__PURE__ */ new WeakMap();
function standing(evidence, chemistry, rules) {
  const kept = stood.get(evidence);
  if (kept?.rules === rules && kept.chemistry === chemistry) return kept.clockState;
  let clockState = { state: "unmeasured", used: null };
  for (const one of evidence) clockState = standingAfter(clockState, one, chemistry, rules);
  stood.set(evidence, { chemistry, rules, clockState });
  return clockState;
}
var MONTH_DAYS = 30;
function lapsesAt(chemistry, last, rules) {
  const { bandLowMv, targetMv } = rules.storage[chemistry];
  const lowestMv = last.kind === "read" || last.kind === "charged" ? Math.min(...last.cellsMv) : targetMv;
  const spare = Math.max(0, socPercent(chemistry, lowestMv) - socPercent(chemistry, bandLowMv));
  const days = spare / (2 * SELF_DISCHARGE_PERCENT_PER_MONTH) * MONTH_DAYS;
  return last.at + Math.max(days, rules.idle.everyDays) * DAY_MS;
}
function leakedIntoBandAt(chemistry, last, rules) {
  if (last.kind !== "read" && last.kind !== "charged") return Infinity;
  const over = socPercent(chemistry, Math.max(...last.cellsMv)) - socPercent(chemistry, rules.storage[chemistry].bandHighMv);
  return last.at + Math.max(0, over) / SELF_DISCHARGE_PERCENT_PER_MONTH * MONTH_DAYS * DAY_MS;
}
function storageChanges(pack, evidence, rules) {
  const last = evidence.at(-1);
  if (!last || !isLithium(pack.chemistry)) return [];
  const bledAt = selfStoredAt(pack, last.at, rules);
  return [
    lapsesAt(pack.chemistry, last, rules),
    leakedIntoBandAt(pack.chemistry, last, rules),
    ...bledAt === null ? [] : [bledAt, lapsesAt(pack.chemistry, { kind: "stored", at: bledAt, records: [] }, rules)]
  ].filter(Number.isFinite).map(Math.ceil);
}
function selfStoredAt({ smart }, leftAloneSince, { bleedDays }) {
  if (!smart?.autoStorage) return null;
  return leftAloneSince + smart.autoStorageAfterHours * HOUR_MS + bleedDays * DAY_MS;
}
function standingAfter(before, evidence, chemistry, rules) {
  const rule = rules.storage[chemistry];
  const { at, records } = evidence;
  switch (evidence.kind) {
    case "read": {
      const side = bandSide(evidence.cellsMv, rule);
      return standsOn(before, side, evidence, side === "high" ? fieldChargedIn(before) : null);
    }
    case "charged": {
      const side = bandSide(evidence.cellsMv, rule);
      if (side === "in-band") return { state: "pending", since: at, records };
      return standsOn(before, side, evidence, isFieldRate(evidence.rateC, rules) ? at : null);
    }
    case "filled": {
      const high = before.state === "high";
      return high ? standsOn(before, "high", evidence, fieldChargedIn(before)) : usedAfter(before, evidence);
    }
    case "stored":
      return { state: "pending", since: at, records };
    case "used":
    case "unknown":
      return usedAfter(before, evidence);
    default:
      return evidence;
  }
}
function usedAfter(before, { at, records }) {
  return { state: "unmeasured", used: { at, before: beforeUse(before), records } };
}
function fieldChargedIn(clockState) {
  return clockState.state === "high" ? clockState.fieldChargedAt : null;
}
var STEP = 1.005;
function isFieldRate(rateC, { charge }) {
  return rateC !== null && rateC > charge.homeC * STEP;
}
function beforeUse(before) {
  return before.state === "unmeasured" && before.used ? before.used.before : before;
}
function standsOn(before, side, { at, records }, fieldChargedAt) {
  const stands = (since, on) => ({
    state: side,
    since,
    records: on,
    fieldChargedAt
  });
  if (before.state === side) return stands(before.since, joined(before.records, records));
  if (before.state !== "unmeasured" || !before.used) return stands(at, records);
  const { used } = before;
  if (used.before.state === side) return stands(used.before.since, joined(used.before.records, records));
  return stands(side === "low" ? used.at : at, joined(used.records, records));
}
function joined(first, last) {
  const begin = first[0];
  return begin === void 0 || last.includes(begin) ? last : [begin, ...last];
}
function allowance(pack, side, rules) {
  if (side === "low") return rules.allowance.lowHours;
  return pack.fieldPack ? rules.allowance.fieldHighHours : rules.allowance.highHours;
}

// src/core/storage/exposure.ts
var CURVE_PERCENTS = Array.from({ length: 21 }, (_, i) => i * 5);
function exposureRate(mv, bandHighMv, fullMv, celsius) {
  const weight = Math.min(1, Math.max(0, (mv - bandHighMv) / (fullMv - bandHighMv)));
  return weight * 2 ** ((celsius - 25) / 10);
}
function exposureDays(history, stretch, chemistry, rules) {
  const { bandHighMv } = rules.storage[chemistry];
  if (restMv(chemistry, Math.max(stretch.fromPercent, stretch.toPercent)) <= bandHighMv) return 0;
  if (history.pack.placeTemperatures.length === 0)
    return daysAt(stretch, chemistry, bandHighMv, rules.shelfC);
  return cutAt(stretch, warmthChanges(history)).reduce((sum, part) => {
    const celsius = celsiusAt(history, part.from) ?? rules.shelfC;
    return sum + daysAt(part, chemistry, bandHighMv, celsius);
  }, 0);
}
var changesKept = /* @__PURE__ */ new WeakMap();
function warmthChanges(history) {
  const kept = changesKept.get(history);
  if (kept) return kept;
  const { moves, pack } = history;
  const changes = [...moves, ...pack.placeTemperatures.map(({ since }) => ({ at: since }))];
  changes.sort((a, b) => a.at - b.at);
  changesKept.set(history, changes);
  return changes;
}
var summed = /* @__PURE__ */ new WeakMap();
function sumsOf(history, past, rules) {
  const kept = summed.get(past);
  if (kept?.history === history && kept.rules === rules) return kept;
  const { chemistry } = history.pack;
  const days = new Float64Array(past.length);
  const upTo = new Float64Array(past.length + 1);
  for (const [i, stretch] of past.entries()) {
    days[i] = isLithium(chemistry) ? exposureDays(history, stretch, chemistry, rules) : 0;
    upTo[i + 1] = upTo[i] + days[i];
  }
  const made = { history, rules, days, upTo };
  summed.set(past, made);
  return made;
}
function fullTimeBetween(history, { past, open }, rules, from, to) {
  const { chemistry } = history.pack;
  if (!isLithium(chemistry)) return { days: 0, longest: () => ({ from, to: from }) };
  const { days, upTo } = sumsOf(history, past, rules);
  const first = pastBy(past, from);
  const after2 = Math.max(first, pastBy(past, to));
  const edges = [];
  let sum = upTo[after2] - upTo[first];
  const within = (stretch) => {
    const part = clippedFrom(stretch, from);
    return part && part.from < to ? clippedTo(part, to) : null;
  };
  const weigh = (stretch) => {
    const part = within(stretch);
    if (!part) return;
    const weighed = exposureDays(history, part, chemistry, rules);
    edges.push({ part, days: weighed });
    sum += weighed;
  };
  if (first < after2 && past[first].from < from) {
    sum -= days[first];
    weigh(past[first]);
  }
  if (after2 < past.length) weigh(past[after2]);
  for (const stretch of open) weigh(stretch);
  const longest = () => {
    let most = { days: 0, from: 0, to: 0 };
    for (let i = first; i < after2; i++) {
      const { from: begin, to: end } = past[i];
      if (begin >= from && days[i] > most.days) most = { days: days[i], from: begin, to: end };
    }
    for (const edge of edges)
      if (edge.days > most.days) most = { days: edge.days, from: edge.part.from, to: edge.part.to };
    return { from: most.from, to: most.to };
  };
  return { days: sum, longest };
}
function pastBy(past, moment) {
  return countWhile(past, ({ to }) => to <= moment);
}
function daysAt(stretch, chemistry, bandHighMv, celsius) {
  const span = (stretch.to - stretch.from) / DAY_MS;
  const [low, high] = [
    Math.min(stretch.fromPercent, stretch.toPercent),
    Math.max(stretch.fromPercent, stretch.toPercent)
  ];
  const fullMv = CHEMISTRY[chemistry].fullMv;
  const rate = (percent) => exposureRate(restMv(chemistry, percent), bandHighMv, fullMv, celsius);
  if (high - low < 1e-9) return rate(high) * span;
  const corners = [low, ...CURVE_PERCENTS, socPercent(chemistry, bandHighMv), high].filter((percent) => percent >= low && percent <= high).sort((a, b) => a - b);
  let area = 0;
  for (let i = 1; i < corners.length; i++)
    area += (rate(corners[i - 1]) + rate(corners[i])) / 2 * (corners[i] - corners[i - 1]);
  return area / (high - low) * span;
}
function clippedTo(stretch, to) {
  return stretch.to <= to ? stretch : cutAt(stretch, [{ at: to }])[0];
}
function clippedFrom(stretch, from) {
  if (stretch.to <= from) return null;
  return stretch.from >= from ? stretch : cutAt(stretch, [{ at: from }]).at(-1);
}
function celsiusAt({ moves, pack }, at) {
  const placeId = moves[countUpTo(moves, at) - 1]?.placeId ?? null;
  if (placeId === null) return null;
  const known2 = pack.placeTemperatures.findLast((one) => one.placeId === placeId && one.since <= at);
  return known2?.celsius ?? null;
}
function cutAt(stretch, changes) {
  const { from, to, fromPercent, toPercent, known: known2 } = stretch;
  const parts = [];
  let begin = from;
  let percent = fromPercent;
  for (let i = countUpTo(changes, from); i < changes.length && changes[i].at < to; i++) {
    const { at } = changes[i];
    if (at === begin) continue;
    const then = fromPercent + (toPercent - fromPercent) * (at - from) / (to - from);
    parts.push({ from: begin, to: at, fromPercent: percent, toPercent: then, known: known2 });
    begin = at;
    percent = then;
  }
  if (parts.length === 0) return [stretch];
  return [...parts, { from: begin, to, fromPercent: percent, toPercent, known: known2 }];
}

// src/core/storage/evidence.ts
function storageEvidence(history, rested) {
  const { pack, charges, flights } = history;
  const evidence = rested.map(({ at, cellsMv, meterErrorMv, records }) => ({
    kind: "read",
    at,
    cellsMv,
    ...meterErrorMv === void 0 ? {} : { meterErrorMv },
    records
  }));
  const { chemistry } = pack;
  if (!isLithium(chemistry) || charges.length === 0 && flights.length === 0) return evidence;
  for (const charge of charges) evidence.push(chargeEvidence(pack.capacityMah, chemistry, charge));
  for (const { at, usedMah, records } of flights) evidence.push({ kind: "used", at, usedMah, records });
  return evidence.sort((a, b) => a.at - b.at);
}
function chargeEvidence(capacityMah, chemistry, charge) {
  const { at, mode, ending, endCellsMv, settings, records } = charge;
  const movedMah = charge.movedMah ?? charge.bench?.shareMah ?? null;
  if (mode === "storage") return { kind: ending === "complete" ? "stored" : "unknown", at, records };
  if (mode === "discharge") return { kind: "used", at, usedMah: movedMah, records };
  const rateC = chargeRateC(charge, capacityMah);
  const charged = (how, cellsMv) => ({
    kind: "charged",
    at,
    cellsMv,
    how,
    rateC,
    records
  });
  const topMv = settings.topMv ?? CHEMISTRY[chemistry].fullMv;
  switch (ending) {
    case "complete":
      return endCellsMv ? charged("ends", endCellsMv) : charged("top", [topMv]);
    case "taper":
    case "quick":
      return charged("taper", endCellsMv ? endCellsMv.map((mv) => Math.min(mv, topMv)) : [topMv]);
    case "stopped":
    case "timed-out":
    case "error":
      if (endCellsMv) return charged("loose", endCellsMv);
      return movedMah === null ? { kind: "unknown", at, records } : { kind: "filled", at, movedMah, rateC, records };
    default:
      return ending;
  }
}

// src/core/storage/job.ts
function storageJob(pack, cellsMv, rules) {
  const { chemistry, capacityMah, chargeC, series } = pack;
  if (!isLithium(chemistry)) return null;
  const { targetMv, bandLowMv, bandHighMv } = rules.storage[chemistry];
  const lowestMv = Math.min(...cellsMv);
  const highestMv = Math.max(...cellsMv);
  const percent = (mv) => socPercent(chemistry, mv);
  const direction = directionOf(lowestMv, highestMv, rules.storage[chemistry]);
  const most = percent(bandHighMv) - percent(highestMv);
  const least = percent(bandLowMv) - percent(lowestMv);
  const wanted = percent(targetMv) - percent(direction === "charge" ? lowestMv : highestMv);
  const apart = least > most;
  const move = apart ? 0 : Math.min(most, Math.max(least, wanted));
  return {
    direction,
    chargeAh: Math.abs(move) / 100 * (capacityMah / 1e3),
    targetMv,
    packTargetMv: targetMv * series,
    chargeAmps: Math.min(rules.charge.homeC, chargeC ?? 1) * (capacityMah / 1e3),
    inTheWay: apart ? cellInTheWay(cellsMv, direction) : null
  };
}
function directionOf(lowestMv, highestMv, { targetMv, bandLowMv, bandHighMv }) {
  if (lowestMv < bandLowMv) return "charge";
  if (highestMv > bandHighMv) return "discharge";
  return lowestMv < targetMv ? "charge" : "discharge";
}
function cellInTheWay(cellsMv, direction) {
  return direction === "charge" ? { cell: cellsMv.indexOf(Math.max(...cellsMv)) + 1, would: "overfill" } : { cell: cellsMv.indexOf(Math.min(...cellsMv)) + 1, would: "run flat" };
}

// src/core/health/points.ts
function median(values) {
  if (values.length === 0) throw new Error("There is no median of nothing.");
  const sorted = values.slice().sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}
var JUDGED_BY = 3;
function currentValue(points, judgedBy2 = JUDGED_BY) {
  const latest = points.slice(-judgedBy2);
  const last = latest.at(-1);
  if (!last) return null;
  return {
    at: last.at,
    value: median(latest.map(({ value }) => value)),
    records: latest.flatMap(({ records }) => records)
  };
}

// src/core/health/capacity.ts
var LEAST_SWING_PERCENT = 40;
var MOST_UNSURE = 0.08;
var TOP_ERROR_MV = 10;
var FARTHEST_APART_DAYS = 14;
var LEAKS_AFTER_MS = 2 * DAY_MS;
var WEAKEST_BY = 30;
var COUNTED_ERROR = 0.015;
var READING_NOISE_MV = 4.2;
var FULL_ERROR_PERCENT = 0.3;
var NONE = /* @__PURE__ */ new Set();
function capacityPoints(history, rested, odd = NONE) {
  return capacityOfEnds(history, rested, odd).weakest;
}
function capacityOfEnds(history, rested, odd = NONE) {
  const { chemistry } = history.pack;
  const none = { weakest: [], strongest: [] };
  if (!isLithium(chemistry)) return none;
  const fixes = fixesOf(history, rested, chemistry, odd);
  const discharged = capacityOfCells(history, fixes, "out", odd);
  const cells = discharged[0]?.length ? discharged : capacityOfCells(history, fixes, "in", odd);
  if (!cells[0]?.length) return none;
  const latest = cells.map((points) => median(points.slice(-WEAKEST_BY).map(({ value }) => value)));
  return {
    weakest: cells[latest.indexOf(Math.min(...latest))],
    strongest: cells[latest.indexOf(Math.max(...latest))]
  };
}
function capacityOfCells({ pack, charges, flights }, fixes, direction, odd) {
  const moves = movesOf({ charges, flights }, odd).sort((a, b) => a.at - b.at);
  const count2 = Math.max(0, ...fixes.map(({ percents }) => percents.length));
  const cells = Array.from({ length: count2 }, () => []);
  let next = 0;
  for (let i = 1; i < fixes.length; i++) {
    const from = fixes[i - 1];
    const to = fixes[i];
    while (next < moves.length && moves[next].at <= from.at) next += 1;
    const first = next;
    while (next < moves.length && moves[next].at <= to.at) next += 1;
    const between = moves.slice(first, next);
    if (between.length === 0 || between.some(({ mah: mah2 }) => mah2 === null)) continue;
    if (to.at - from.at > FARTHEST_APART_DAYS * DAY_MS || mayHaveBled(pack, from.at, between, to.at))
      continue;
    const apart = to.at - from.at;
    const leaked = apart < LEAKS_AFTER_MS ? 0 : leakedPercent(apart);
    const mah = between.reduce((sum, move) => sum + move.mah, 0);
    const swings = [];
    let least = Infinity;
    for (let cell = 0; cell < count2; cell++) {
      const swing = cellPercent(to, cell) - cellPercent(from, cell) + leaked;
      swings.push(swing);
      least = Math.min(least, Math.abs(swing));
    }
    if (least < LEAST_SWING_PERCENT || from.unsurePercent + to.unsurePercent > least * MOST_UNSURE) continue;
    if (Math.sign(mah) !== Math.sign(swings[0]) || mah > 0 !== (direction === "in")) continue;
    const records = [...from.records, ...between.flatMap((move) => move.records), ...to.records];
    const share = Math.hypot(COUNTED_ERROR, Math.hypot(from.errorPercent, to.errorPercent) / least);
    for (const [cell, points] of cells.entries()) {
      const value = mah / swings[cell] / pack.capacityMah * 1e4;
      points.push({ at: to.at, value, error: value * share, records });
    }
  }
  return cells;
}
function mayHaveBled({ smart }, from, between, to) {
  if (!smart?.autoStorage) return false;
  const moments = [from, ...between.map(({ at }) => at), to];
  return moments.some((at, i) => i > 0 && at - moments[i - 1] > smart.autoStorageAfterHours * HOUR_MS);
}
function cellPercent({ percents }, cell) {
  return percents[cell] ?? percents[0];
}
function fixesOf({ charges }, rested, chemistry, odd) {
  const fixes = rested.map(({ at, cellsMv, meterErrorMv, records }) => ({
    at,
    percents: cellsMv.map((mv) => socPercent(chemistry, mv)),
    unsurePercent: unsure(chemistry, Math.min(...cellsMv), meterErrorMv),
    errorPercent: unsure(chemistry, Math.min(...cellsMv), READING_NOISE_MV),
    records
  }));
  for (const { at, mode, ending, balanced, settings, records } of charges) {
    if (mode !== "balance" || ending !== "complete" || balanced === false || odd.has(records[0])) continue;
    const topMv = settings.topMv ?? CHEMISTRY[chemistry].fullMv;
    const percents = [socPercent(chemistry, topMv)];
    const unsurePercent = unsure(chemistry, topMv, TOP_ERROR_MV);
    fixes.push({ at, percents, unsurePercent, errorPercent: FULL_ERROR_PERCENT, records });
  }
  return fixes.sort((a, b) => a.at - b.at);
}
function unsure(chemistry, mv, errorMv) {
  const { lowPercent, highPercent } = soc(chemistry, mv, errorMv);
  return (highPercent - lowPercent) / 2;
}
function movesOf({ charges, flights }, odd) {
  return [
    ...charges.map(({ at, mode, movedMah, endCellsMv, startCellsMv, records }) => ({
      at,
      mah: odd.has(records[0]) ? null : signed(movedMah, mode, startCellsMv, endCellsMv),
      records
    })),
    ...flights.map(({ at, usedMah, records }) => ({ at, mah: usedMah === null ? null : -usedMah, records }))
  ];
}
function signed(mah, mode, startCellsMv, endCellsMv) {
  if (mah === null || mode === "balance" || mode === "fast") return mah;
  if (mode === "discharge") return -mah;
  if (!startCellsMv || !endCellsMv) return null;
  return Math.min(...endCellsMv) >= Math.min(...startCellsMv) ? mah : -mah;
}
var AGREEING = 3;
var PLAUSIBLE_PERCENT = { low: 30, high: 130 };
function isPlausible({ value }) {
  return value >= PLAUSIBLE_PERCENT.low && value <= PLAUSIBLE_PERCENT.high;
}
function healthShare(points, at = Infinity) {
  const known2 = points.filter((point) => point.at <= at && isPlausible(point));
  return (currentValue(known2, AGREEING)?.value ?? 100) / 100;
}

// src/core/health/likeWithLike.ts
var JOINED_WITHIN_MS = DAY_MS;
function comparable(resistances, odd = NONE2) {
  const sound = odd.size === 0 ? resistances : resistances.filter(({ records }) => !records.some((id) => odd.has(id)));
  const last = sound.at(-1);
  if (!last || sound.every(({ instrument }) => instrument === last.instrument)) return sound;
  const scales = scalesTo(sound, last.instrument);
  return sound.flatMap((event) => {
    const scale = scales.get(event.instrument);
    if (scale === void 0) return [];
    return scale === 1 ? [event] : [{ ...event, irMilliohm: event.irMilliohm.map((one) => one * scale) }];
  });
}
var NONE2 = /* @__PURE__ */ new Set();
function scalesTo(readings, instrument) {
  const scales = /* @__PURE__ */ new Map([[instrument, 1]]);
  const others = new Set(readings.map((one) => one.instrument));
  for (let round = 0; round < others.size; round++) {
    for (const other of others) {
      if (scales.has(other)) continue;
      for (const [known2, scale] of scales) {
        const ratio = ratioOf(readings, other, known2);
        if (ratio !== null) scales.set(other, ratio * scale);
      }
    }
  }
  return scales;
}
function ratioOf(readings, of, to) {
  const ratios = [];
  for (const one of readings) {
    if (one.instrument !== of) continue;
    for (const other of readings) {
      if (other.instrument !== to || Math.abs(other.at - one.at) > JOINED_WITHIN_MS) continue;
      if (Math.abs(other.temperatureC - one.temperatureC) > SAME_TEMPERATURE_C) continue;
      for (const [i, milliohm] of one.irMilliohm.entries()) ratios.push(other.irMilliohm[i] / milliohm);
    }
  }
  return ratios.length === 0 ? null : median(ratios);
}
var SAME_TEMPERATURE_C = 5;

// src/core/health/outlook/clock.ts
var calendarClock = (from, to) => (to - from) / DAY_MS;
var BY_TIME = 0.3;
var LIKE_LAST_YEAR = 0.85;
var LEAST_VARIED = 0.35;
var MONTH_MS2 = 30 * DAY_MS;
var YEAR_MS = 365 * DAY_MS;
function useClock(uses, until) {
  const first = uses[0];
  if (first === void 0 || until - first < 3 * MONTH_MS2 || uses.length < 10) return null;
  const months = Math.floor((until - first) / MONTH_MS2);
  const perMonth = Array.from({ length: months }, () => 0);
  for (const at of uses) {
    const month = Math.floor((at - first) / MONTH_MS2);
    if (month < months) perMonth[month] += 1;
  }
  const mean = perMonth.reduce((sum, one) => sum + one, 0) / months;
  const sd = Math.sqrt(perMonth.reduce((sum, one) => sum + (one - mean) ** 2, 0) / months);
  if (mean === 0 || sd / mean <= LEAST_VARIED) return null;
  const perDay = mean / 30;
  const known2 = (from, to) => countUpTo2(uses, to) - countUpTo2(uses, from);
  const expected = (from, to) => {
    const days = (to - from) / DAY_MS;
    const before = to - YEAR_MS <= until && from - YEAR_MS >= first ? known2(from - YEAR_MS, to - YEAR_MS) : days * perDay;
    return LIKE_LAST_YEAR * before + (1 - LIKE_LAST_YEAR) * days * perDay;
  };
  return (from, to) => {
    const past = known2(from, Math.min(to, Math.max(from, until)));
    const ahead = to > until ? expected(Math.max(from, until), to) : 0;
    return BY_TIME * (to - from) / DAY_MS + (1 - BY_TIME) * (past + ahead) / perDay;
  };
}
function countUpTo2(uses, at) {
  let [low, high] = [0, uses.length];
  while (low < high) {
    const middle = low + high >> 1;
    if (uses[middle] <= at) low = middle + 1;
    else high = middle;
  }
  return low;
}

// src/core/health/outlook/normal.ts
function below(z) {
  if (z < 0) return 1 - below(-z);
  const t = 1 / (1 + 0.2316419 * z);
  const poly = t * (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  return 1 - Math.exp(-z * z / 2) * poly * 0.3989422804014327;
}

// src/core/health/outlook/filter.ts
var USUAL_DAYS = 770;
var KEPT = 10;
var WILD_SHARE = 0.04;
var WILD_VARIANCE = 20;
var ABSURD_SHARE = 5e-3;
var ABSURD_VARIANCE = 900;
var KNEE_DAYS = 220;
var EASE_DAYS = 900;
var EASED = 0.5;
var EASE_SD = 0.6;
var STEP_MEAN = 0.3;
var STEP_SD = 0.25;
function paceDrift(way) {
  return (0.4 * way / 800) ** 2 / 365;
}
function asNew(prior) {
  return {
    weight: 1,
    level: prior.startMean,
    pace: prior.pace.mean * prior.way,
    shared: 0,
    ll: prior.startSd ** 2,
    lp: 0,
    ls: 0,
    pp: (prior.pace.sd * prior.way) ** 2,
    ps: 0,
    ss: prior.sharedSd ** 2,
    change: null
  };
}
function followWear(values, prior, clock) {
  const first = values[0];
  if (!first) return null;
  let hypotheses = [asNew(prior)];
  const path = [];
  let lastAt = first.at;
  let likelihood = 0;
  for (const one of values) {
    const days = one === first ? 0 : clock(lastAt, one.at);
    if (days > 0) hypotheses = branched(hypotheses, days, lastAt, one.at, prior);
    const updated = hypotheses.map((hypothesis) => withValue(hypothesis, one, prior));
    const total = updated.reduce((sum, { weight }) => sum + weight, 0);
    likelihood += Math.log(Math.max(total, 1e-300));
    hypotheses = updated.sort((a, b) => b.weight - a.weight).slice(0, KEPT).map((hypothesis) => ({ ...hypothesis, weight: hypothesis.weight / Math.max(total, 1e-300) }));
    const kept = hypotheses.reduce((sum, { weight }) => sum + weight, 0);
    hypotheses = hypotheses.map((hypothesis) => ({ ...hypothesis, weight: hypothesis.weight / kept }));
    path.push({ at: one.at, level: meanLevel(hypotheses) });
    lastAt = one.at;
  }
  return { prior, hypotheses, lastAt, count: values.length, path, likelihood };
}
function branched(before, days, from, to, { way, kneeHazard }) {
  const kneeShare2 = Math.min(0.3, days * Math.max(1 / 600, kneeHazard));
  const stepShare = Math.min(0.3, days / 1200);
  const easeShare = Math.min(0.2, days / EASE_DAYS);
  const gone = before.map((hypothesis) => goneOn(hypothesis, days, way));
  const merged = mergedOf(gone);
  const middle = from + (to - from) / 2;
  const knee = way / KNEE_DAYS;
  const eased = EASED * Math.max(0, merged.pace);
  return [
    ...gone.map((one) => ({ ...one, weight: one.weight * (1 - kneeShare2 - stepShare - easeShare) })),
    {
      ...atAnotherPace(merged, knee, knee, days),
      weight: kneeShare2,
      change: { at: middle, how: "knee", seen: 0 }
    },
    { ...atAnotherPace(merged, -eased, EASE_SD * eased, days), weight: easeShare },
    {
      ...merged,
      weight: stepShare,
      level: merged.level + STEP_MEAN * way,
      ll: merged.ll + (STEP_SD * way) ** 2,
      change: { at: middle, how: "step", seen: 0 }
    }
  ];
}
function atAnotherPace(one, by, sd, days) {
  return {
    ...one,
    pace: one.pace + by,
    level: one.level + by * days / 2,
    pp: one.pp + sd ** 2,
    lp: one.lp + sd ** 2 * days / 2,
    ll: one.ll + sd ** 2 * days ** 2 / 4
  };
}
function goneOn(one, days, way) {
  const q = paceDrift(way);
  return {
    ...one,
    level: one.level + one.pace * days,
    ll: one.ll + 2 * days * one.lp + days ** 2 * one.pp + q * days ** 3 / 3,
    lp: one.lp + days * one.pp + q * days ** 2 / 2,
    ls: one.ls + days * one.ps,
    pp: one.pp + q * days
  };
}
function mergedOf(list) {
  const total = list.reduce((sum, { weight }) => sum + weight, 0);
  const mean = (of) => list.reduce((sum, one) => sum + one.weight * of(one), 0) / total;
  const level = mean((one) => one.level);
  const pace = mean((one) => one.pace);
  const shared = mean((one) => one.shared);
  return {
    weight: 1,
    level,
    pace,
    shared,
    ll: mean((one) => one.ll + (one.level - level) ** 2),
    lp: mean((one) => one.lp + (one.level - level) * (one.pace - pace)),
    ls: mean((one) => one.ls + (one.level - level) * (one.shared - shared)),
    pp: mean((one) => one.pp + (one.pace - pace) ** 2),
    ps: mean((one) => one.ps + (one.pace - pace) * (one.shared - shared)),
    ss: mean((one) => one.ss + (one.shared - shared) ** 2),
    change: null
  };
}
function withValue(one, { value, noise }, prior) {
  const h = prior.sharedScales ? 100 + one.level : 1;
  const hl = prior.sharedScales ? 1 + one.shared : 1;
  const expected = one.level + h * one.shared;
  const gl = one.ll * hl + one.ls * h;
  const gp = one.lp * hl + one.ps * h;
  const gs = one.ls * hl + one.ss * h;
  const spread2 = hl * gl + h * gs;
  const off = value - expected;
  const ordinary = (1 - WILD_SHARE - ABSURD_SHARE) * density(off, spread2 + noise);
  const wild = WILD_SHARE * density(off, spread2 + WILD_VARIANCE * noise);
  const absurd = ABSURD_SHARE * density(off, spread2 + ABSURD_VARIANCE * noise);
  const likelihood = Math.max(ordinary + wild + absurd, 1e-300);
  const precision = (ordinary + wild / WILD_VARIANCE + absurd / ABSURD_VARIANCE) / likelihood;
  const s = spread2 + noise / Math.max(precision, 1 / ABSURD_VARIANCE);
  return {
    weight: one.weight * likelihood,
    level: one.level + gl / s * off,
    pace: one.pace + gp / s * off,
    shared: one.shared + gs / s * off,
    ll: one.ll - gl * gl / s,
    lp: one.lp - gl * gp / s,
    ls: one.ls - gl * gs / s,
    pp: one.pp - gp * gp / s,
    ps: one.ps - gp * gs / s,
    ss: one.ss - gs * gs / s,
    change: one.change && { ...one.change, seen: one.change.seen + 1 }
  };
}
function density(off, variance) {
  return Math.exp(-off * off / (2 * variance)) / Math.sqrt(2 * Math.PI * variance);
}
function meanLevel(hypotheses) {
  return hypotheses.reduce((sum, { weight, level }) => sum + weight * level, 0);
}
var AGREEING2 = 3;
function pastLine({ hypotheses }, line, settled) {
  const heard = settled ? hypotheses.filter(({ change }) => change === null || change.seen >= AGREEING2) : hypotheses;
  const total = heard.reduce((sum, { weight }) => sum + weight, 0);
  if (total < 1e-9) return 0;
  const past = heard.reduce(
    (sum, { weight, level, ll }) => sum + weight * below((level - line) / Math.sqrt(Math.max(ll, 1e-9))),
    0
  );
  return past / total;
}
function kneeShare({ hypotheses }) {
  return hypotheses.reduce((sum, { change, weight }) => change?.how === "knee" ? sum + weight : sum, 0);
}
function recentChange({ hypotheses, lastAt }, withinDays) {
  const young = hypotheses.filter(({ change }) => change && lastAt - change.at <= withinDays * DAY_MS);
  const heaviest = [...young].sort((a, b) => b.weight - a.weight)[0]?.change;
  if (!heaviest) return null;
  const share = young.reduce((sum, { weight }) => sum + weight, 0);
  return { ...heaviest, share };
}

// src/core/health/outlook/outlook.ts
var KNEE_HAZARD = 1 / 900;
function linesOf(measure2, lines) {
  return measure2 === "capacity" ? [100 - lines.watch, 100 - lines.retire] : [100 * (lines.watch - 1), 100 * (lines.retire - 1)];
}
function priorOf(measure2, way, sharedSd, siblings) {
  return {
    way,
    startMean: measure2 === "capacity" ? 1 : 0,
    startSd: measure2 === "capacity" ? 3 : 0.5,
    sharedSd,
    sharedScales: measure2 === "resistance",
    pace: siblings?.pace ?? { mean: 1 / USUAL_DAYS, sd: 1 / USUAL_DAYS },
    kneeHazard: siblings?.kneeHazard ?? KNEE_HAZARD
  };
}
function outlookOf(measure2, series, lines, { flights }, siblings = null) {
  const [toWatch, toRetire] = linesOf(measure2, lines);
  const prior = priorOf(measure2, toWatch, series.sharedSd, siblings);
  const byCalendar = followWear(series.values, prior, calendarClock);
  const last = series.values.at(-1);
  if (!byCalendar || !last) return null;
  const use = useClock(
    flights.map(({ at }) => at),
    Math.max(last.at, flights.at(-1)?.at ?? 0)
  );
  const byUse = use && followWear(series.values, prior, use);
  return byUse && byUse.likelihood > byCalendar.likelihood ? { measure: measure2, wear: byUse, clock: use, toWatch, toRetire } : { measure: measure2, wear: byCalendar, clock: calendarClock, toWatch, toRetire };
}
var CONDEMNS = 0.9;
var WARNS = 0.5;
var NEWS_DAYS = 120;
var NEWS_SHARE = 0.8;
function alarmsOf({ wear, toWatch, toRetire }) {
  const past = wear.count >= 3 && pastLine(wear, toRetire, true) >= CONDEMNS ? "retire" : pastLine(wear, toWatch, false) >= WARNS ? "watch" : null;
  const change = recentChange(wear, NEWS_DAYS);
  return { past, changed: change && change.share >= NEWS_SHARE && change.seen >= 3 ? change : null };
}

// src/core/health/resistance.ts
function resistanceAt25(milliohm, celsius) {
  return milliohm * 2 ** ((celsius - 25) / 25);
}
var BASELINE_READINGS = 3;
function resistanceBaseline(resistances) {
  if (resistances.length < BASELINE_READINGS) return null;
  const first = resistances.slice(0, BASELINE_READINGS).map(at25);
  return first[0].map((_, cell) => median(first.map((cells) => cells[cell])));
}
function meanResistance(resistances) {
  return resistances.map((event) => {
    const cells = at25(event);
    const value = cells.reduce((sum, one) => sum + one, 0) / cells.length;
    return { at: event.at, value, records: event.records };
  });
}
function at25({ irMilliohm, temperatureC }) {
  return irMilliohm.map((milliohm) => resistanceAt25(milliohm, temperatureC));
}
var UNSURE_A_DEGREE = 4e-3;
function certainFactor(factor, celsius) {
  return factor * (1 - UNSURE_A_DEGREE * Math.abs(25 - celsius));
}
function mostGrown(resistances) {
  const baseline = resistanceBaseline(resistances);
  if (!baseline || resistances.length <= BASELINE_READINGS) return null;
  return worst(latestCells(resistances), (_, i) => baseline[i]);
}
function growthOf(resistances, cell) {
  const baseline = resistanceBaseline(resistances);
  if (!baseline) return [];
  return resistances.slice(BASELINE_READINGS).slice(-BASELINE_READINGS).map((event) => certainFactor(at25(event)[cell - 1] / baseline[cell - 1], event.temperatureC));
}
function apartOf(resistances, cell) {
  return resistances.slice(-BASELINE_READINGS).map((event) => {
    const cells = at25(event);
    return cells[cell - 1] / median(cells.filter((_, other) => other !== cell - 1));
  });
}
function apartIn(reading) {
  const cells = at25(reading);
  return cells.length < 2 ? null : worst(cells, (_, i) => median(cells.filter((__, other) => other !== i)));
}
function mostApart(resistances) {
  if (resistances.length === 0 || resistances[0].irMilliohm.length < 2) return null;
  const latest = latestCells(resistances);
  return worst(latest, (_, i) => median(latest.filter((__, other) => other !== i)));
}
function lastJump(resistances) {
  const [before, after2] = resistances.slice(-2).map(at25);
  return before && after2 ? worst(after2, (_, i) => before[i]) : null;
}
function latestCells(resistances) {
  const latest = resistances.slice(-BASELINE_READINGS).map(at25);
  return latest[0].map((_, cell) => median(latest.map((cells) => cells[cell])));
}
function worst(cells, against) {
  return cells.map((milliohm, i) => {
    const other = against(milliohm, i);
    return { cell: i + 1, factor: milliohm / other, milliohm, against: other };
  }).reduce((most, one) => one.factor > most.factor ? one : most);
}

// src/core/health/outlook/values.ts
var PRIOR_VALUES = 6;
function noiseScale(values) {
  const offs = [];
  for (let i = 1; i + 1 < values.length; i++) {
    const [before, one, after2] = [values[i - 1], values[i], values[i + 1]];
    const share = after2.at > before.at ? (one.at - before.at) / (after2.at - before.at) : 0.5;
    const line = before.value + share * (after2.value - before.value);
    const expected = one.noise + (1 - share) ** 2 * before.noise + share ** 2 * after2.noise;
    offs.push(Math.abs(one.value - line) / Math.sqrt(expected));
  }
  if (offs.length === 0) return 1;
  const shown = (1.4826 * median(offs)) ** 2;
  return (PRIOR_VALUES + offs.length * shown) / (PRIOR_VALUES + offs.length);
}
function scaled(values, scale) {
  return values.map((one) => ({ ...one, noise: one.noise * scale }));
}
var BIN_DAYS = 7;
var MOST_BINS = 45;
var JOINED = 1.2;
function capacitySeries(points) {
  const raw = points.map(({ at, value, error }) => ({ at, value: 100 - value, noise: error ** 2 }));
  const scale = noiseScale(raw);
  const values = joined2(scaled(raw, scale));
  return { values, sharedSd: 0.9 * Math.max(0.8, Math.sqrt(scale)), cell: null };
}
function joined2(values) {
  const [first, last] = [values[0], values.at(-1)];
  if (!first || !last) return [];
  const width = Math.max(BIN_DAYS * DAY_MS, (last.at - first.at) / MOST_BINS);
  const bins = [];
  for (const one of values) {
    const bin = bins.at(-1);
    if (bin && one.at - bin[0].at < width) bin.push(one);
    else bins.push([one]);
  }
  return bins.map((bin) => {
    if (bin.length === 1) return bin[0];
    const weight = bin.reduce((sum, { noise: noise2 }) => sum + 1 / noise2, 0);
    const mean = bin.reduce((sum, { value: value2, noise: noise2 }) => sum + value2 / noise2, 0) / weight;
    const middle = median(bin.map(({ value: value2 }) => value2));
    const noise = JOINED / weight;
    const value = Math.abs(middle - mean) > Math.sqrt(noise) ? middle : mean;
    return { at: median(bin.map(({ at }) => at)), value, noise };
  });
}
var BASELINE_READINGS2 = 3;
var CELLS_DIFFER = 0.035;
var CELL_NOISE = 0.045;
var CELL_NOISE_WEIGHT = 8;
var CONTACT_NOISE = 0.02;
var TEMPERATURE_NOISE = 0.028 * 1.2;
var LAW_NOISE = 4e-3;
var GROWN_BY = 12;
function resistanceSeries(readings) {
  if (readings.length <= BASELINE_READINGS2) return null;
  const logs = readings.map(
    ({ irMilliohm, temperatureC }) => irMilliohm.map((one) => Math.log(resistanceAt25(one, temperatureC)))
  );
  const cells = logs[0].length;
  const v = cellNoise(logs) ** 2 / BASELINE_READINGS2 * JOINED;
  const baseline = baselineOf(logs.slice(0, BASELINE_READINGS2), v);
  const later = readings.slice(BASELINE_READINGS2);
  const growth = (cell2) => logs.slice(BASELINE_READINGS2).map((one) => Math.exp(one[cell2] - baseline[cell2]));
  const latest = Math.min(GROWN_BY, Math.max(3, Math.ceil(later.length / 2)));
  const grown = Array.from({ length: cells }, (_, cell2) => median(growth(cell2).slice(-latest)));
  const cell = grown.indexOf(Math.max(...grown));
  const noise = cellNoise(logs);
  const raw = growth(cell).map((factor, i) => {
    const { at, temperatureC } = later[i];
    const share = Math.hypot(noise, CONTACT_NOISE, TEMPERATURE_NOISE, (25 - temperatureC) * LAW_NOISE);
    return { at, value: 100 * (factor - 1), noise: (100 * factor * share) ** 2 };
  });
  const lambda = CELLS_DIFFER ** 2 / (CELLS_DIFFER ** 2 + v);
  const shared = Math.sqrt(
    1.3 * (TEMPERATURE_NOISE ** 2 + CONTACT_NOISE ** 2) / BASELINE_READINGS2 + v / cells + lambda * v + 0.01 ** 2
  );
  return { values: scaled(raw, noiseScale(raw)), sharedSd: 0.9 * shared, cell: cell + 1 };
}
function baselineOf(logs, v) {
  const own = logs[0].map((_, cell) => median(logs.map((one) => one[cell])));
  const pack = median(own);
  const lambda = CELLS_DIFFER ** 2 / (CELLS_DIFFER ** 2 + v);
  return own.map((one) => pack + lambda * (one - pack));
}
function cellNoise(logs) {
  const changes = [];
  for (let i = 1; i < logs.length; i++) {
    const mean = (one) => one.reduce((sum, value) => sum + value, 0) / one.length;
    const [before, after2] = [logs[i - 1], logs[i]];
    if (before.length < 2) break;
    const moved = mean(after2) - mean(before);
    for (const [cell, value] of after2.entries()) changes.push(Math.abs(value - before[cell] - moved));
  }
  if (changes.length === 0) return CELL_NOISE;
  const shown = 1.4826 * median(changes) / Math.SQRT2;
  const weight = changes.length;
  return Math.sqrt(
    (CELL_NOISE_WEIGHT * CELL_NOISE ** 2 + weight * shown ** 2) / (CELL_NOISE_WEIGHT + weight)
  );
}

// src/core/health/outlook/siblings.ts
var TEACHES_DAYS = 120;
var TEACHES_VALUES = 4;
var PRIOR_VARIANCE = 0.5 ** 2;
var SLOWEST = 0.1;
var FASTEST = 10;
var MOST_KNEES_A_DAY = 1 / 150;
function wearShown({ pack, receivedAt }, outlooks2) {
  return outlooks2.flatMap(({ measure: measure2, wear, toWatch }) => {
    const first = wear.path[0];
    const since = Math.min(first.at, pack.inServiceAt ?? receivedAt ?? first.at);
    const days = (wear.lastAt - since) / DAY_MS;
    if (days < TEACHES_DAYS || wear.count < TEACHES_VALUES) return [];
    const worn = (wear.path.at(-1).level - wear.prior.startMean) / toWatch;
    const usual = 1 / USUAL_DAYS;
    const pace = Math.min(FASTEST * usual, Math.max(SLOWEST * usual, worn / days));
    const knees = rounded(kneeShare(wear));
    return [{ measure: measure2, pace: rounded(pace), days: Math.round(days), knees }];
  });
}
function rounded(value) {
  return Number(value.toPrecision(3));
}

// src/core/health/outlook/index.ts
var followed = /* @__PURE__ */ new WeakMap();
function outlooksKept(history, measured, rules) {
  const { capacityPercent, irGrowth } = rules.health;
  const by = [capacityPercent, irGrowth, measured.capacity];
  const before = followed.get(history);
  if (before?.by.every((one, i) => one === by[i])) return before.told;
  const told4 = outlooks(history, measured, rules);
  followed.set(history, { by, told: told4 });
  return told4;
}
function outlooks(history, { capacity: capacity2, oddRecords }, rules, siblings = {}) {
  const { capacityPercent, irGrowth } = rules.health;
  const lost = capacitySeries(capacity2);
  const grown = resistanceSeries(comparable(history.resistances, oddRecords));
  const ofCapacity = outlookOf("capacity", lost, capacityPercent, history, siblings.capacity ?? null);
  const ofResistance = grown && outlookOf("resistance", grown, irGrowth, history, siblings.resistance ?? null);
  return [
    ...ofCapacity ? [{ ...ofCapacity, cell: null }] : [],
    ...ofResistance ? [{ ...ofResistance, cell: grown.cell }] : []
  ];
}

// src/core/health/oddCharges.ts
var TAPER_MINUTES = 45;
var ORDINARY_UNSURE_PERCENT = 3;
var LEAST_NOTED = 0.02;
var LEAST_HELD = 0.05;
var KNOWN_WITHIN_PERCENT = 40;
function oddCharges({ pack, charges }, rules, before, capacityAt) {
  const odd = [];
  let next = 0;
  for (const charge of charges) {
    const beginning = before[next]?.records === charge.records ? before[next++] : null;
    if (!putsIn(charge) || charge.movedMah === null && charge.minutes === null) continue;
    const found = isLithium(pack.chemistry) ? lithiumOddity(charge, beginning?.contents() ?? null, capacityAt(charge.startedAt), rules) : nickelOddity(charge, pack.capacityMah, rules);
    if (found) odd.push({ charge, ...found });
  }
  return odd;
}
function lithiumOddity(charge, held, capacityMah, { charge: limits, flight }) {
  const { movedMah, minutes, ending, settings } = charge;
  const much = movedMah === null ? null : tooMuch(movedMah, roomMah(held, capacityMah), capacityMah, limits);
  if (much) return much;
  const known2 = held && held.lowest.highPercent - held.lowest.lowPercent <= KNOWN_WITHIN_PERCENT;
  if (minutes === null || settings.currentA === null || !known2) return null;
  const { percent, lowPercent, highPercent } = held.lowest;
  const minutesFrom = (from) => (100 - from) / 100 * capacityMah * 60 / 1e3 / settings.currentA;
  const finished = ending === "complete" || ending === "taper" || ending === "quick";
  const odd = (oddity, expected) => ({
    oddity,
    value: minutes,
    expected,
    dangerous: false
  });
  const toppedUp = highPercent >= flight.chargedPercent;
  if (finished && !toppedUp && minutes < minutesFrom(highPercent) * limits.tooFastPercent / 100)
    return odd("too-fast", minutesFrom(percent));
  return minutes > minutesFrom(lowPercent) * limits.tooLongPercent / 100 + TAPER_MINUTES ? odd("too-long", minutesFrom(percent) + TAPER_MINUTES) : null;
}
function roomMah(held, capacityMah) {
  if (!held) return capacityMah;
  const { percent, lowPercent } = held.lowest;
  const granted = Math.max(0, percent - lowPercent - ORDINARY_UNSURE_PERCENT);
  return Math.min(100, 100 - percent + granted) / 100 * capacityMah;
}
function tooMuch(movedMah, room, capacityMah, { overNotePercent, overHoldPercent }) {
  const over = (percent, least) => movedMah > room * percent / 100 + ROUNDING && movedMah - room > least * capacityMah;
  const dangerous = over(overHoldPercent, LEAST_HELD);
  if (!dangerous && !over(overNotePercent, LEAST_NOTED)) return null;
  return { oddity: "too-much", value: movedMah, expected: room, dangerous };
}
var ROUNDING = 1e-6;
function nickelOddity(charge, labelMah, { charge: limits }) {
  const { movedMah, minutes, settings } = charge;
  const most = labelMah * limits.nimhPercent / 100;
  if (movedMah !== null && movedMah > most)
    return { oddity: "too-much", value: movedMah, expected: most, dangerous: false };
  if (minutes === null || settings.currentA === null) return null;
  const expected = most * 60 / 1e3 / settings.currentA;
  return minutes > expected * limits.tooLongPercent / 100 ? { oddity: "too-long", value: minutes, expected, dangerous: false } : null;
}

// src/core/health/measured.ts
function measure(history, rested, rules, now) {
  const { pack } = history;
  const known2 = timeless(history, rested);
  const judged = known2.by.get(rules) ?? judgedBy(history, rested, rules, known2, now);
  known2.by.set(rules, judged);
  const carried = judged.carried.until(now) ?? carry(pack, known2.evidence, rules, now, known2.capacityAt);
  return { ...judged, evidence: known2.evidence, carried };
}
function judgedBy(history, rested, rules, { evidence, everything, capacityAt, mostAt }, now) {
  const { pack } = history;
  const carried = carry(pack, evidence, rules, Math.max(now, evidence.at(-1)?.at ?? now), capacityAt);
  const odd = oddCharges(history, rules, carried.before, mostAt);
  const oddRecords = new Set(odd.flatMap(({ charge }) => charge.records));
  const capacity2 = odd.length === 0 ? everything : capacityPoints(history, rested, oddRecords);
  const capacityMah = pack.capacityMah * Math.min(1, healthShare(capacity2));
  return { carried, odd, oddRecords, capacity: capacity2, capacityMah };
}
var known = /* @__PURE__ */ new WeakMap();
function timeless(history, rested) {
  const before = known.get(history);
  if (before && sameReadings(before.rested, rested)) return before;
  const { weakest: everything, strongest } = capacityOfEnds(history, rested);
  const evidence = storageEvidence(history, rested);
  const capacityAt = capacityOver(history.pack.capacityMah, everything);
  const mostAt = capacityOver(history.pack.capacityMah, strongest);
  const made = { rested, evidence, everything, capacityAt, mostAt, by: /* @__PURE__ */ new WeakMap() };
  known.set(history, made);
  return made;
}
function sameReadings(a, b) {
  if (a === b) return true;
  return a.length === b.length && a.every(({ records, at }, i) => b[i].at === at && b[i].records === records);
}
function capacityOver(labelMah, points) {
  const plausible = points.filter(isPlausible);
  if (plausible.length < AGREEING) return () => labelMah;
  const mah = plausible.map(
    (point, i) => i + 1 < AGREEING ? labelMah : labelMah / 100 * middleOf(plausible, i)
  );
  return (at) => mah[countUpTo(plausible, at) - 1] ?? labelMah;
}
function middleOf(points, i) {
  const [a, b, c] = [points[i - 2].value, points[i - 1].value, points[i].value];
  return Math.max(Math.min(a, b), Math.min(Math.max(a, b), c));
}

// src/core/health/runTime.ts
var BASELINE_FLIGHTS = 5;
function runTimes(flights, coldC) {
  const bySetup = /* @__PURE__ */ new Map();
  for (const { at, craft: craft2, craftId, craftSetup, minutes, usedMah, ambientC, records } of flights) {
    if (craft2 === null || !minutes || !usedMah || ambientC !== null && ambientC < coldC) continue;
    const key = `${craftId ?? craft2} ${craftSetup ?? 0}`;
    const flown = bySetup.get(key) ?? { craft: craft2, points: [] };
    flown.points.push({ at, value: minutes / (usedMah / 1e3), records });
    bySetup.set(key, flown);
  }
  const most = [...bySetup.values()].sort((a, b) => b.points.length - a.points.length)[0];
  if (!most) return null;
  const { craft, points } = most;
  const first = points.slice(0, BASELINE_FLIGHTS).map(({ value }) => value);
  return { craft, points, baseline: first.length < BASELINE_FLIGHTS ? null : median(first) };
}
function runTimeLoss({ points, baseline }) {
  if (baseline === null || points.length < BASELINE_FLIGHTS * 2) return null;
  const latest = points.slice(-BASELINE_FLIGHTS);
  const lossOf = (value) => (1 - value / baseline) * 100;
  const percent = lossOf(median(latest.map(({ value }) => value)));
  const each = latest.map(({ value }) => lossOf(value));
  return { percent, latest, each, stepAt: stepIn(points, percent / 100 * baseline) };
}
var STEP_SHARE = 0.7;
var STEP_FLIGHTS = 3;
function stepIn(points, loss) {
  if (loss <= 0) return null;
  let [most, at] = [0, null];
  for (let i = STEP_FLIGHTS; i + STEP_FLIGHTS <= points.length; i++) {
    const before = median(points.slice(i - STEP_FLIGHTS, i).map(({ value }) => value));
    const after2 = median(points.slice(i, i + STEP_FLIGHTS).map(({ value }) => value));
    if (before - after2 > most) [most, at] = [before - after2, points[i].at];
  }
  return most >= STEP_SHARE * loss ? at : null;
}

// src/core/health/spread.ts
function spread(cellsMv) {
  const lowestMv = Math.min(...cellsMv);
  const highestMv = Math.max(...cellsMv);
  return { mv: highestMv - lowestMv, lowestCell: cellsMv.indexOf(lowestMv) + 1, lowestMv, highestMv };
}
function socSpreadPercent(chemistry, { lowestMv, highestMv }) {
  return socPercent(chemistry, highestMv) - socPercent(chemistry, lowestMv);
}
function certainSocSpreadPercent(chemistry, cells, meterErrorMv) {
  const top = soc(chemistry, cells.highestMv, meterErrorMv).lowPercent;
  const bottom = soc(chemistry, cells.lowestMv, meterErrorMv).highPercent;
  return Math.max(0, top - bottom);
}

// src/core/health/wear.ts
function cycles({ pack, before, charges, flights }, deepestPercent) {
  const guess = deepestPercent / 100 * pack.capacityMah;
  let charged = 0;
  let unnotedCharges = 0;
  for (const { mode, movedMah } of charges) {
    if (mode === "discharge" || mode === "storage") continue;
    charged += movedMah ?? guess;
    if (movedMah === null) unnotedCharges += 1;
  }
  let used = 0;
  let unnotedFlights = 0;
  for (const { usedMah } of flights) {
    used += usedMah ?? guess;
    if (usedMah === null) unnotedFlights += 1;
  }
  const byCharge = charged >= used;
  return {
    count: (before?.cycles ?? 0) + (byCharge ? charged : used) / pack.capacityMah,
    guessed: byCharge ? unnotedCharges : unnotedFlights,
    records: (byCharge ? charges : flights).at(-1)?.records ?? []
  };
}
var YEAR_MS2 = 365.25 * DAY_MS;
function ageYears({ pack, receivedAt }, now) {
  const since = pack.inServiceAt ?? receivedAt;
  return since === null ? null : Math.max(0, now - since) / YEAR_MS2;
}

// src/core/health/weakCell.ts
function weakAfterUse(rested, flights, charges) {
  for (const flight of flights.slice().reverse()) {
    const charged = charges.find(({ at }) => at > flight.at)?.startedAt ?? Infinity;
    const reading = rested.find(({ at, byCell }) => byCell && at > flight.at && at <= charged);
    if (!reading || reading.cellsMv.length < 2) continue;
    const { lowestCell: lowestCell2, lowestMv } = spread(reading.cellsMv);
    const siblings = reading.cellsMv.filter((_, i) => i !== lowestCell2 - 1);
    return {
      cell: lowestCell2,
      mv: lowestMv,
      belowMv: Math.round(median(siblings) - lowestMv),
      at: reading.at,
      records: [...flight.records, ...reading.records]
    };
  }
  return null;
}
var DRIFT_USES = 5;
function cellDrift(rested, flights, charges, chemistry) {
  const uses = afterUses(rested, flights, charges);
  if (uses.length < DRIFT_USES * 2) return null;
  const belowIn = ({ cellsMv }) => {
    const percents = cellsMv.map((mv) => socPercent(chemistry, mv));
    return percents.map((percent2, i) => median(percents.filter((_, other) => other !== i)) - percent2);
  };
  const first = uses.slice(0, DRIFT_USES).map(belowIn);
  const latest = uses.slice(-DRIFT_USES).map(belowIn);
  const middle = (list, cell) => median(list.map((one) => one[cell]));
  const drifts = first[0].map((_, cell) => middle(latest, cell) - middle(first, cell));
  const percent = Math.max(...drifts);
  const records = uses.slice(-DRIFT_USES).flatMap((one) => one.records);
  return { cell: drifts.indexOf(percent) + 1, percent, records };
}
function afterUses(rested, flights, charges) {
  const uses = [];
  let [nextReading, nextCharge] = [0, 0];
  for (const [i, flight] of flights.entries()) {
    while (nextReading < rested.length && rested[nextReading].at <= flight.at) nextReading += 1;
    while (nextCharge < charges.length && charges[nextCharge].at <= flight.at) nextCharge += 1;
    const until = Math.min(charges[nextCharge]?.startedAt ?? Infinity, flights[i + 1]?.startedAt ?? Infinity);
    const reading = rested[nextReading];
    if (reading?.byCell && reading.cellsMv.length > 1 && reading.at <= until) uses.push(reading);
  }
  return uses;
}
var DEEP_PERCENT = 30;
function recurrence(rested, charges, chemistry, limits, rule) {
  const weakest = weakestByCharge(rested, charges, chemistry, limits);
  let watched = null;
  for (const [i, { cell: cell2, certain }] of weakest.entries()) {
    if (watched) {
      const again = cell2 === watched.cell;
      watched = {
        cell: watched.cell,
        timesAgain: watched.timesAgain + (again && certain ? 1 : 0),
        soundInARow: again ? 0 : watched.soundInARow + 1
      };
      if (watched.soundInARow < rule.inCharges) continue;
      watched = null;
    }
    const window = weakest.slice(Math.max(0, i + 1 - rule.inCharges), i + 1);
    if (cell2 !== null && window.filter((one) => one.cell === cell2).length >= rule.times)
      watched = { cell: cell2, timesAgain: 0, soundInARow: 0 };
  }
  if (!watched) return null;
  const { cell, timesAgain } = watched;
  const latest = weakest.slice(-rule.inCharges);
  const found = latest.filter((one) => one.cell === cell);
  return {
    cell,
    times: found.length,
    ofCharges: latest.length,
    timesAgain,
    records: found.flatMap(({ records }) => records)
  };
}
function weakestByCharge(rested, charges, chemistry, { toleranceMv, watchMv, watchSocPercent }) {
  let next = 0;
  const weakest = [];
  for (const charge of charges) {
    if (charge.mode === "discharge") continue;
    let fresh = null;
    for (; next < rested.length && rested[next].at <= charge.startedAt; next++) {
      fresh = rested[next];
    }
    if (!fresh?.byCell || fresh.cellsMv.length < 2) continue;
    const { mv, lowestCell: lowestCell2, ...ends } = spread(fresh.cellsMv);
    weakest.push({
      cell: mv > toleranceMv ? lowestCell2 : null,
      certain: certainSocSpreadPercent(chemistry, ends, fresh.meterErrorMv) > watchSocPercent && (mv > watchMv || socPercent(chemistry, Math.min(...fresh.cellsMv)) > DEEP_PERCENT),
      records: [...fresh.records, ...charge.records.filter((id) => !fresh.records.includes(id))]
    });
  }
  return weakest;
}

// src/core/assess/caseFile.ts
function caseFile(history, rules, now) {
  const { rested, undecided } = restedReadings(history, rules);
  const measured = measure(history, rested, rules, now);
  const latest = rested.at(-1) ?? null;
  return {
    history,
    rules,
    now,
    rested,
    latest,
    undecided,
    current: latest && disturbedSince(history, latest.at) ? null : latest,
    measured,
    contents: measured.carried.contents,
    storage: storageState(history.pack, measured.evidence, rules, now)
  };
}
function disturbedSince({ charges, flights }, at) {
  return [...charges.slice(-1), ...flights.slice(-1)].some((one) => one.at > at);
}
function restedReadings(history, { restMinutes }) {
  const kept = decidable.get(history);
  if (kept?.restMinutes === restMinutes) return kept;
  const made = { restMinutes, ...partedByRest(history, restMinutes) };
  decidable.set(history, made);
  return made;
}
var decidable = /* @__PURE__ */ new WeakMap();
function partedByRest(history, restMinutes) {
  const rested = [];
  const disturbed = disturbances(history);
  let next = 0;
  let lastDisturbedAt = null;
  let undecided = null;
  for (const reading of history.readings) {
    while (next < disturbed.length && disturbed[next] <= reading.at) lastDisturbedAt = disturbed[next++];
    const condition = conditionHeld(reading.condition, reading.at, lastDisturbedAt, restMinutes);
    if (condition === "loaded") lastDisturbedAt = reading.at;
    if (condition === "rested" && DECIDES[condition].storage) {
      rested.push(restedReading(reading, history.pack.series));
      undecided = null;
    } else if (condition !== "rested") {
      undecided = { ...reading, condition };
    }
  }
  return { rested, undecided };
}
function disturbances({ flights, charges }) {
  return [...flights.map(({ at }) => at), ...charges.map(({ at }) => at)].sort((a, b) => a - b);
}
function restedReading(reading, series) {
  const { volts, at, meterErrorMv, records } = reading;
  const cellsMv = volts.of === "cells" ? volts.cellsMv : [Math.round(volts.packMv / series)];
  return { at, cellsMv, byCell: volts.of === "cells", meterErrorMv, records };
}
function lowestCell(reading) {
  const mv = Math.min(...reading.cellsMv);
  return { cell: reading.byCell ? reading.cellsMv.indexOf(mv) + 1 : null, mv, at: reading.at };
}

// src/core/assess/rules/recovery.ts
function recovery({ history, rules }) {
  const begun2 = history.recoveries.findLast(({ step }) => step === "begun");
  if (!begun2) return [];
  const ended = endOf(history.recoveries, begun2);
  const how = ended?.how ?? "running";
  const severity = how === "running" ? "hold" : how === "reached" ? "watch" : "retire";
  return [
    {
      rule: "recovery",
      severity,
      how,
      at: ended?.at ?? begun2.at,
      endsAt: begun2.at + rules.recovery.minutes * MINUTE_MS,
      records: [...begun2.records, ...ended?.records ?? []]
    }
  ];
}
function endOf(recoveries, begun2) {
  return recoveries.find(
    (event) => event.step === "ended" && event.at >= begun2.at
  );
}

// src/core/assess/release.ts
function releaseNeeds(file, findings) {
  const all = findings.filter(speaksAgainstUse).flatMap((finding3) => needsOf(file, finding3));
  return all.filter((need, i) => !all.some((other, j) => j !== i && covers(other, need, j < i)));
}
function covers(other, need, isFirst) {
  const since = (one) => "since" in one ? one.since : "until" in one ? one.until : 0;
  if (other.need !== need.need) return false;
  if (other.need === "inspection" && need.need === "inspection" && need.afterCrash && !other.afterCrash)
    return false;
  const milder = other.need === "inspection" && need.need === "inspection" && other.afterCrash && !need.afterCrash;
  if (since(other) !== since(need)) return since(other) > since(need);
  return milder || isFirst;
}
function needsOf(file, finding3) {
  const because = finding3.rule;
  if (isTrend(finding3)) return [{ need: "a-day", because, met: true }];
  switch (finding3.rule) {
    case "incident": {
      if (finding3.severity === "retire" || !INCIDENT_FACTS[finding3.kind].mayReturn)
        return [{ need: "nothing-releases", because, met: false }];
      const since = finding3.watchUntil ?? finding3.at;
      return [
        ...watchNeed(file, finding3.watchUntil, because),
        inspectionNeed(file, since, because, finding3.kind === "crash"),
        readingNeed(file, since, because)
      ];
    }
    case "damage-floor":
    case "over-discharged":
      return overDischargedNeeds(file, finding3);
    case "hot-charge":
    case "wrong-setting":
    case "charge-implausible":
    case "overfull": {
      const until = newestOf(file, finding3, finding3.at) + file.rules.incidents.overnightHours * HOUR_MS;
      return [
        ...watchNeed(file, until, because),
        inspectionNeed(file, until, because),
        readingNeed(file, until, because)
      ];
    }
    case "hot-use":
    case "held-by-hand":
    case "swollen":
      return [inspectionNeed(file, finding3.at, because), readingNeed(file, finding3.at, because)];
    case "inspection-failed": {
      const newest = Math.max(
        ...finding3.failures.filter(({ means }) => means === "hold").map(({ at }) => at),
        0
      );
      return [inspectionNeed(file, newest + 1, because), readingNeed(file, newest, because)];
    }
    case "recovery":
    case "second-name":
      return finding3.rule === "recovery" && finding3.how === "running" ? [{ need: "recovery", because, met: false, readFrom: null }] : [{ need: "nothing-releases", because, met: false }];
    case "spread":
    case "weak-cell":
    case "cell-drift":
    case "weakest-again":
    case "charge-failed":
    case "shelf-loss":
    case "wears-faster":
    case "cooling":
    case "not-known":
    case "field-charged":
    case "self-storing":
    case "smart-settings":
    case "memory-unread":
    case "own-faults":
    case "balance-due":
    case "charge-habits":
    case "two-hands":
    case "deep-use":
    case "cold-use":
    case "resistance-growth":
    case "resistance-siblings":
    case "resistance-jump":
    case "capacity":
    case "run-time":
    case "long-full":
    case "cycles":
    case "age":
    case "landed-low":
    case "over-discharge-event":
    case "recharge-soon":
    case "storage-high":
    case "storage-low":
    case "storage-pending":
    case "not-rested":
    case "unmeasured":
    case "unlogged":
    case "not-as-delivered":
    case "inspection-asked":
    case "inspection-due":
    case "long-rest":
    case "baseline-missing":
    case "nimh-top-up":
    case "idle":
      return [{ need: "a-day", because, met: true }];
    default:
      return finding3;
  }
}
function overDischargedNeeds(file, finding3) {
  const { history, rules } = file;
  const { rule: because } = finding3;
  const since = newestOf(file, finding3, finding3.low.at);
  if (!isLithium(history.pack.chemistry))
    return [inspectionNeed(file, since, because), readingNeed(file, since, because)];
  const { floorMv: recoverableMv } = rules.recovery;
  if (rules.overDischarged === "retire" || finding3.low.mv <= recoverableMv)
    return [{ need: "nothing-releases", because, met: false }];
  const begun2 = history.recoveries.findLast(({ step, at }) => step === "begun" && at >= since);
  const ended = begun2 && endOf(history.recoveries, begun2);
  if (ended && ended.how !== "reached") return [{ need: "nothing-releases", because, met: false }];
  const readFrom = ended ? ended.at + rules.recovery.restHours * HOUR_MS : null;
  const floorMv = rules.floors[history.pack.chemistry].overDischargeMv ?? 0;
  const read = readFrom !== null && file.rested.some((one) => one.at >= readFrom && lowestCell(one).mv >= floorMv) && lowestCell(file.rested.at(-1)).mv >= floorMv;
  return [
    inspectionNeed(file, since, because),
    { need: "recovery", because, met: ended !== void 0 && read, readFrom }
  ];
}
function newestOf({ history }, { records }, otherwise) {
  const times = timesOf(history);
  return Math.max(otherwise, ...records.map((id) => times.get(id) ?? 0));
}
function watchedUntil(findings, { incidents }) {
  const ends = findings.filter(speaksAgainstUse).map((finding3) => {
    if (finding3.rule === "incident") return finding3.watchUntil ?? 0;
    if (!RULE_FACTS[finding3.rule].abnormalCharge || !("at" in finding3)) return 0;
    return finding3.at + incidents.overnightHours * HOUR_MS;
  });
  return Math.max(0, ...ends);
}
function watchNeed({ now }, until, because) {
  return until === null ? [] : [{ need: "watch-over", because, until, met: now >= until }];
}
function inspectionNeed(file, since, because, afterCrash = false) {
  const newest = file.history.inspections.findLast(
    ({ at, occasion }) => at >= since && (afterCrash ? occasion === "after-crash" : FULL_OCCASIONS.has(occasion))
  );
  const found = newest ? isSound(file, newest) ? "sound" : "faults" : "none yet";
  return { need: "inspection", because, since, afterCrash, found, met: found === "sound" };
}
function isSound({ history, rules }, look) {
  const holds = look.items.some(({ key, answer, failMeans }) => {
    const said = rules.checklists[look.occasion].find((item2) => item2.key === key)?.failMeans ?? failMeans;
    return answer === "fail" && meaningOf(key, said) === "hold";
  });
  const baseline = history.inspections.find(({ thicknessMm }) => thicknessMm !== null)?.thicknessMm ?? null;
  const grown = baseline !== null && look.thicknessMm !== null && thickerPercent(look.thicknessMm, baseline) >= rules.swelling.holdPercent;
  return !holds && !grown && (look.swelling === null || look.swelling === "none");
}
function readingNeed(file, since, because) {
  const { chemistry } = file.history.pack;
  const { damageMv } = file.rules.floors[chemistry];
  const { plausibleMaxMv } = CHEMISTRY[chemistry];
  const met = file.rested.some(
    ({ at, cellsMv }) => at >= since && cellsMv.every((mv) => mv >= damageMv && mv <= plausibleMaxMv)
  );
  return { need: "reading", because, since, met };
}

// src/core/assess/finding.ts
var SEVERITIES = ["note", "watch", "hold", "retire"];
var END_STEPS = [
  "mark-red",
  "drain",
  "pack-apart",
  "verify-empty",
  "verify-again",
  "insulate",
  "bin",
  "consign",
  "hand-over"
];
var STEP_KINDS = [
  "keep-off",
  "inspect-held",
  "read-held",
  "attend-recovery",
  "set-apart",
  "decide",
  "second-name",
  ...END_STEPS,
  "store-up-now",
  "top-up",
  "feel-again",
  "fly-or-drain",
  "measure",
  "measure-rested",
  "store-down",
  "store-up",
  "send-back",
  "mend",
  "inspect-season",
  "complete-baseline",
  "inspect",
  "cycle",
  "re-read",
  "set-smart",
  "read-memory",
  "balance",
  "measure-resistance",
  "measure-again",
  "check-charger",
  "review"
];

// src/core/assess/rules/chargeFailed.ts
function chargeFailed({ history, rules }) {
  const passes = [];
  for (const charge of history.charges.slice().reverse()) {
    if (charge.mode !== "balance" || charge.ending === "taper" || charge.ending === "quick") continue;
    const how = balanceFailure(charge, rules);
    if (how === null) break;
    passes.push({ charge, how });
  }
  const latest = passes[0];
  if (!latest) return [];
  const limit = rules.health.failedBalances;
  const ends = latest.charge.endCellsMv && latest.charge.endCellsMv.length > 1 ? spread(latest.charge.endCellsMv) : null;
  const apart = ends && ends.mv > rules.spread.toleranceMv ? ends : null;
  return [
    {
      rule: "charge-failed",
      severity: passes.length >= limit ? "retire" : "watch",
      at: latest.charge.at,
      how: latest.how,
      cell: apart?.lowestCell ?? null,
      apartMv: apart?.mv ?? null,
      passes: passes.length,
      limit,
      records: passes.flatMap(({ charge }) => charge.records)
    }
  ];
}
function balanceFailure({ ending, balanced, endCellsMv }, { spread: limits }) {
  if (ending === "timed-out" || ending === "error") return ending;
  if (ending !== "complete") return null;
  if (endCellsMv && spread(endCellsMv).mv > limits.toleranceMv) return "ends-apart";
  return balanced === false ? "unbalanced" : null;
}

// src/core/assess/rules/balanceDue.ts
function balanceDue({ history, rules }) {
  const { pack, charges } = history;
  if (!isLithium(pack.chemistry) || pack.series < 2) return [];
  const filled = charges.filter(putsIn);
  const last = filled.findLastIndex(
    (charge) => charge.mode === "balance" && charge.ending === "complete" && balanceFailure(charge, rules) === null
  );
  const since = filled.slice(last + 1);
  const every = rules.charge.balanceEvery;
  if (since.length < every) return [];
  return [
    {
      rule: "balance-due",
      severity: "note",
      charges: since.length,
      every,
      lastAt: filled[last]?.at ?? null,
      records: since.flatMap(({ records }) => records)
    }
  ];
}

// src/core/assess/rules/baselineMissing.ts
var BASELINE_RESISTANCES = 3;
var NEW_CHARGES = 5;
function baselineMissing(file) {
  const dueAt = baselineDueAt(file);
  if (dueAt === null) return [];
  return [
    {
      rule: "baseline-missing",
      severity: "note",
      resistances: file.history.resistances.length,
      missing: missing(file),
      dueAt,
      records: []
    }
  ];
}
function baselineDueAt(file) {
  const { receivedAt, charges } = file.history;
  if (receivedAt === null || charges.length > NEW_CHARGES) return null;
  return missing(file).length === 0 ? null : receivedAt + file.rules.baselineDays * DAY_MS;
}
function missing({ history }) {
  const { pack, resistances, inspections } = history;
  const byCell = CHEMISTRY[pack.chemistry].cellTaps;
  return [
    ...byCell && resistances.length < BASELINE_RESISTANCES ? ["resistance"] : [],
    ...byCell && inspections.every(({ thicknessMm }) => thicknessMm === null) ? ["thickness"] : [],
    ...inspections.every(({ massG }) => massG === null) ? ["mass"] : []
  ];
}

// src/core/assess/rules/lines.ts
var ROUNDING2 = 1e-9;
function risenTo(value, lines) {
  if (value >= lines.retire - ROUNDING2) return "retire";
  return value >= lines.watch - ROUNDING2 ? "watch" : null;
}

// src/core/assess/rules/capacity.ts
var FOLLOWED = 8;
function capacity({ history, rules, measured }) {
  const latest = measured.capacity.slice(-AGREEING);
  const newest = latest.at(-1);
  const lines = rules.health.capacityPercent;
  if (!newest) return [];
  const below2 = (line) => latest.filter(({ value }) => value <= line + ROUNDING2);
  const [toWatch, toRetire] = [below2(lines.watch), below2(lines.retire)];
  if (toWatch.length === 0) return [];
  const outlook = outlooksKept(history, measured, rules).find((one) => one.measure === "capacity");
  const past = outlook ? alarmsOf(outlook).past : null;
  const sure = past === "retire" || measured.capacity.length < FOLLOWED;
  const severity = toRetire.length >= AGREEING && sure ? "retire" : toWatch.length >= 2 || past === "watch" && toWatch.length > 0 ? "watch" : toWatch.includes(newest) ? "note" : null;
  if (!severity) return [];
  const percent = severity === "note" ? newest.value : median(latest.map(({ value }) => value));
  const agreeing = severity === "retire" ? toRetire.length : toWatch.length;
  const records = latest.flatMap((point) => point.records);
  return [{ rule: "capacity", severity, percent, lines, agreeing, records: [...new Set(records)] }];
}

// src/core/assess/rules/cellDrift.ts
function cellDrift2({ history, rules, rested }) {
  const { pack, flights, charges } = history;
  if (!isLithium(pack.chemistry)) return [];
  const drift = cellDrift(rested, flights, charges, pack.chemistry);
  const limitPercent = rules.spread.watchSocPercent;
  return drift && drift.percent > limitPercent ? [{ rule: "cell-drift", severity: "watch", ...drift, limitPercent }] : [];
}

// src/core/assess/rules/heat.ts
var RECENT_FLIGHTS = 5;
function hotUse(file) {
  const { history, rules } = file;
  const { useHoldC, useWatchC } = rules.heat;
  const isScorched = ({ hottestC, felt }) => felt === "hot" || (hottestC ?? 0) > useHoldC;
  const scorched = byAnswer(file, "hot-use", history.flights.filter(isScorched));
  const recent = history.flights.filter(({ hottestC }) => hottestC !== null).slice(-RECENT_FLIGHTS);
  const hot = recent.filter(({ hottestC }) => hottestC > useWatchC);
  const told4 = (worst2, severity, flights) => worst2 ? [
    {
      rule: "hot-use",
      severity,
      celsius: worst2.hottestC,
      at: worst2.at,
      times: hot.length,
      ofFlights: recent.length,
      limits: rules.heat,
      records: flights.flatMap(({ records }) => records)
    }
  ] : [];
  const answered2 = told4(scorched.old.at(-1), "hold", scorched.old);
  if (scorched.fresh.length > 0) return [...told4(scorched.fresh.at(-1), "hold", scorched.fresh), ...answered2];
  const milder = hot.filter((flight) => !isScorched(flight));
  return [...answered2, ...told4(milder.at(-1), "watch", milder)];
}
function hotCharge(file) {
  const { history, rules } = file;
  const { chargeHoldC, chargeWatchC, nimhChargeC } = rules.heat;
  const lithium = isLithium(history.pack.chemistry);
  const told4 = (charge, severity, charges) => charge ? [
    {
      rule: "hot-charge",
      severity,
      celsius: charge.temperatureC,
      felt: charge.felt ?? null,
      at: charge.at,
      limits: rules.heat,
      records: charges.flatMap(({ records }) => records)
    }
  ] : [];
  const latest = history.charges.findLast(({ temperatureC, felt }) => temperatureC !== null || felt);
  if (!lithium) {
    const stop = latest && (latest.felt === "hot" || (latest.temperatureC ?? 0) > nimhChargeC);
    return stop ? told4(latest, "watch", [latest]) : [];
  }
  const isHot = ({ temperatureC, felt }) => felt === "warm" || felt === "hot" || (temperatureC ?? 0) > chargeHoldC;
  const hot = byAnswer(file, "hot-charge", history.charges.filter(isHot));
  const answered2 = told4(hot.old.at(-1), "hold", hot.old);
  if (hot.fresh.length > 0) return [...told4(hot.fresh.at(-1), "hold", hot.fresh), ...answered2];
  const isWarm = latest && !isHot(latest) && (latest.temperatureC ?? 0) > chargeWatchC;
  return [...answered2, ...isWarm ? told4(latest, "watch", [latest]) : []];
}
function lukewarmAtEase(charge, capacityMah) {
  return charge.felt === "lukewarm" && (chargeRateC(charge, capacityMah) ?? 1) <= 1;
}
function warmFrom({ history, rules }, at) {
  const ends = [...history.flights, ...history.charges].map((one) => one.at).filter((end) => end <= at);
  const last = Math.max(0, ...ends);
  return at - last < rules.heat.coolMinutes * MINUTE_MS ? last : null;
}

// src/core/assess/rules/chargeHabits.ts
var RECENT_CHARGES = 5;
var COUNTED_CHARGES = 20;
var STEP2 = 1.005;
function chargeHabits(file) {
  const { pack, charges, flights } = file.history;
  if (!isLithium(pack.chemistry)) return [];
  const filled = charges.filter(putsIn).slice(-COUNTED_CHARGES);
  const judged = filled.map((charge) => ({ charge, breaches: breachesOf(file, charge, flights) }));
  const broken = judged.filter(({ breaches }) => breaches.length > 0);
  const latest = judged.slice(-RECENT_CHARGES).findLast(({ breaches }) => breaches.length > 0);
  if (!latest) return [];
  const { at, by } = latest.charge;
  return [
    {
      rule: "charge-habits",
      severity: "note",
      at,
      by,
      breaches: latest.breaches,
      times: broken.length,
      ofCharges: filled.length,
      timesBySame: broken.filter(({ charge }) => charge.by === by).length,
      records: broken.flatMap(({ charge }) => charge.records)
    }
  ];
}
function breachesOf(file, charge, flights) {
  const { rules, history } = file;
  const { pack } = history;
  const limits = rules.charge;
  const breaches = [];
  const rateC = chargeRateC(charge, pack.capacityMah);
  const over = (limitC) => rateC !== null && rateC > limitC * STEP2;
  if (pack.chargeC === null && over(1)) breaches.push({ of: "unrated", rateC, limitC: 1 });
  else if (pack.chargeC !== null && over(pack.chargeC))
    breaches.push({ of: "label-rate", rateC, limitC: pack.chargeC });
  if (over(limits.fieldC)) breaches.push({ of: "field-rate", rateC, limitC: limits.fieldC });
  if (over(limits.afterRestC) && isAfterRest(file, charge))
    breaches.push({ of: "after-rest", rateC, limitC: limits.afterRestC });
  const { topMv } = charge.settings;
  const houseTopMv = isLithium(pack.chemistry) ? rules.topMv[pack.chemistry] : Infinity;
  if (topMv !== null && topMv > houseTopMv) breaches.push({ of: "house-top", topMv, limitMv: houseTopMv });
  if (charge.temperatureC !== null && charge.temperatureC < limits.coldC)
    breaches.push({ of: "cold", celsius: charge.temperatureC, limitC: limits.coldC });
  const landed = flights.findLast(({ at }) => at <= charge.startedAt);
  const minutes = landed ? (charge.startedAt - landed.at) / MINUTE_MS : Infinity;
  if (landed && cameWarm(file, landed) && minutes < limits.warmLandingMinutes)
    breaches.push({
      of: "warm-landing",
      minutes: Math.round(minutes),
      limitMinutes: limits.warmLandingMinutes
    });
  if (lukewarmAtEase(charge, pack.capacityMah)) breaches.push({ of: "felt-lukewarm" });
  return breaches;
}
function isAfterRest({ history, rules }, charge) {
  const ends = [...history.flights, ...history.charges].map(({ at }) => at).filter((at) => at <= charge.startedAt && at < charge.at);
  const last = ends.length > 0 ? Math.max(...ends) : history.receivedAt;
  return last !== null && charge.startedAt - last >= rules.seasonStartDays * DAY_MS;
}
var COOL_C = 30;
function cameWarm(_file, { hottestC, felt }) {
  return felt === "warm" || felt === "hot" || (hottestC ?? 0) > COOL_C;
}

// src/core/assess/rules/chargeImplausible.ts
function chargeImplausible(file) {
  const events = file.measured.odd.map((odd) => ({ ...odd, records: odd.charge.records }));
  const dangerous = byAnswer(
    file,
    "charge-implausible",
    events.filter((one) => one.dangerous)
  );
  const open = events.filter((one) => !one.dangerous && !isCleared(file, one)).at(-1);
  return [
    ...finding(file, dangerous.fresh.at(-1), "hold", dangerous.fresh),
    ...finding(file, dangerous.old.at(-1), "hold", dangerous.old),
    ...finding(
      file,
      open,
      open?.oddity === "too-much" && isLithiumNote(file) ? "note" : "watch",
      open ? [open] : []
    )
  ];
}
function isLithiumNote({ history }) {
  return history.pack.chemistry !== "nimh";
}
function finding(file, odd, severity, all) {
  if (!odd) return [];
  const { charge, oddity, value, expected } = odd;
  const readSince = file.rested.some(({ at }) => at > charge.at);
  const records = all.flatMap((one) => one.records);
  return [
    { rule: "charge-implausible", severity, at: charge.at, oddity, value, expected, readSince, records }
  ];
}
function isCleared({ history, rested, measured }, { charge, oddity }) {
  const since = ({ at }) => at > charge.at;
  const read = rested.some(since);
  const looked = history.inspections.some((one) => since(one) && FULL_OCCASIONS.has(one.occasion));
  const decided = history.decisions.some((one) => since(one) && one.what.to === "release");
  if (looked || decided) return true;
  return oddity === "too-fast" ? read && measured.capacity.some(since) : read;
}

// src/core/assess/rules/cooling.ts
function cooling(file) {
  const warm = file.history.inspections.findLast((look) => warmth(look) !== null);
  if (!warm || !isJustWarm(file, warm)) return [];
  const usedAt = warmFrom(file, warm.at);
  const againFrom = usedAt + file.rules.heat.coolMinutes * MINUTE_MS;
  return [{ rule: "cooling", severity: "note", usedAt, feltAt: warm.at, againFrom, records: warm.records }];
}
function warmth({ items, felt }) {
  const item2 = items.find(({ key }) => key === "warm");
  if (felt === "hot") return "hot";
  if (felt === "warm" || item2?.answer === "fail")
    return felt === "cool" || felt === "lukewarm" ? "sound" : "warm";
  return felt || item2 ? "sound" : null;
}
function isJustWarm(file, look) {
  return warmth(look) === "warm" && warmFrom(file, look.at) !== null;
}

// src/core/assess/rules/damageFloor.ts
function damageFloor(file) {
  const limitMv = file.rules.floors[file.history.pack.chemistry].damageMv;
  return belowDamage(file, "damage-floor").map((breach) => ({
    rule: "damage-floor",
    severity: "hold",
    limitMv,
    ...breach
  }));
}
function belowDamage(file, rule) {
  const { damageMv } = file.rules.floors[file.history.pack.chemistry];
  const breaches = file.rested.filter((reading) => lowestCell(reading).mv < damageMv);
  if (breaches.length === 0) return [];
  const { fresh, old } = byAnswer(file, rule, breaches);
  return [fresh, old].filter((list) => list.length > 0).map(worstOf);
}
function worstOf(readings) {
  const worst2 = readings.reduce((low, one) => lowestCell(one).mv < lowestCell(low).mv ? one : low);
  return { low: lowestCell(worst2), records: readings.flatMap(({ records }) => records) };
}

// src/core/assess/rules/fieldCharged.ts
function fieldCharged({ history, rules, storage }) {
  if (storage.state !== "high" || storage.fieldChargedAt === null) return [];
  const at = storage.fieldChargedAt;
  const charge = history.charges.findLast((one) => one.at === at);
  const rateC = charge && chargeRateC(charge, history.pack.capacityMah);
  if (!charge || !rateC) return [];
  const dueAt = at + rules.charge.fieldHours * HOUR_MS;
  return [{ rule: "field-charged", severity: "note", at, rateC, dueAt, records: charge.records }];
}

// src/core/assess/rules/flightHabits.ts
var RECENT_FLIGHTS2 = 5;
var COUNTED_FLIGHTS = 20;
function deepUse({ history, rules, measured }) {
  const limitPercent = rules.flight.maxDodPercent;
  const depth = ({ usedMah }) => usedMah / measured.capacityMah * 100;
  const counted = history.flights.filter(({ usedMah }) => usedMah !== null).slice(-COUNTED_FLIGHTS);
  const deep = counted.filter((flight) => depth(flight) > limitPercent + ROUNDING2);
  const latest = counted.slice(-RECENT_FLIGHTS2).findLast((flight) => deep.includes(flight));
  if (!latest) return [];
  return [
    {
      rule: "deep-use",
      severity: "note",
      at: latest.at,
      pilot: latest.pilot,
      craft: latest.craft,
      percent: depth(latest),
      limitPercent,
      times: deep.length,
      ofFlights: counted.length,
      timesBySame: deep.filter(({ pilot }) => pilot === latest.pilot).length,
      records: deep.flatMap(({ records }) => records)
    }
  ];
}
function coldUse({ history, rules }) {
  const latest = history.flights.at(-1);
  const limitC = rules.flight.coldC;
  const celsius = latest?.ambientC ?? null;
  if (!latest || celsius === null || celsius >= limitC) return [];
  const { at, records } = latest;
  return [{ rule: "cold-use", severity: "note", at, celsius, limitC, records }];
}

// src/core/assess/rules/heldByHand.ts
function heldByHand(file) {
  const holds = file.history.decisions.filter(({ what }) => what.to === "hold");
  const { fresh, old } = byAnswer(file, "held-by-hand", holds);
  return [fresh, old].flatMap((list) => {
    const latest = list.at(-1);
    if (!latest) return [];
    const { at, reason } = latest;
    const records = list.flatMap((one) => one.records);
    return [{ rule: "held-by-hand", severity: "hold", at, reason, records }];
  });
}

// src/core/assess/rules/idle.ts
function idle(file) {
  const dueAt = idleDueAt(file);
  if (dueAt === null || file.now < dueAt || !file.latest) return [];
  const { everyDays, doing } = file.rules.idle;
  return [
    {
      rule: "idle",
      severity: "note",
      lastReadAt: file.latest.at,
      everyDays,
      doing,
      records: file.latest.records
    }
  ];
}
function idleDueAt({ history, rules, latest }) {
  return latest && isLithium(history.pack.chemistry) ? latest.at + rules.idle.everyDays * DAY_MS : null;
}

// src/core/assess/rules/incident.ts
function incident({ history, rules }) {
  return history.incidents.filter(({ holds }) => holds).map((event) => {
    const found = event.kind === "crash" ? deformation(history.inspections, event.at) : [];
    const toRetire = !INCIDENT_FACTS[event.kind].mayReturn || event.kind === "crash" && (rules.afterCrash === "retire" || found.length > 0);
    return {
      rule: "incident",
      severity: toRetire ? "retire" : "hold",
      incidentId: event.incidentId,
      kind: event.kind,
      at: event.at,
      watchUntil: watchEnds(event, rules),
      endedEarly: event.endedEarly !== null,
      deformed: found.map(({ asks }) => asks),
      afterCrash: rules.afterCrash,
      records: [...event.records, ...found.flatMap(({ records }) => records)]
    };
  });
}
function watchEnds({ kind, at, endedEarly }, rules) {
  const { watch } = INCIDENT_FACTS[kind];
  if (watch === null) return null;
  const { watchMinutes, overnightHours } = rules.incidents;
  const until = at + (watch === "shock" ? watchMinutes * MINUTE_MS : overnightHours * HOUR_MS);
  return endedEarly ? Math.min(until, endedEarly.at) : until;
}
var SHAPE_KEYS = /* @__PURE__ */ new Set(["swelling", "dents", "case"]);
function deformation(inspections, since) {
  return inspections.filter(({ at }) => at >= since).flatMap(
    ({ items, records }) => items.filter(({ key, answer }) => answer === "fail" && SHAPE_KEYS.has(key)).map(({ asks }) => ({ asks, records }))
  );
}

// src/core/assess/rules/inspectionAsked.ts
function inspectionAsked({ history }) {
  const asked = history.asked.at(-1);
  if (!asked) return [];
  const { at, reason, records } = asked;
  const seen = history.inspections.some((look) => look.at >= at && FULL_OCCASIONS.has(look.occasion));
  return seen ? [] : [{ rule: "inspection-asked", severity: "watch", at, reason, records }];
}

// src/core/assess/rules/inspectionDue.ts
function inspectionDue(file) {
  const dueAt = inspectionDueAt(file);
  if (dueAt === null || file.now < dueAt) return [];
  const last = lastFullInspection(file);
  return [
    {
      rule: "inspection-due",
      severity: "note",
      lastAt: last?.at ?? null,
      everyDays: file.rules.inspectionDays,
      dueAt,
      records: last?.records ?? []
    }
  ];
}
function inspectionDueAt(file) {
  const from = lastFullInspection(file)?.at ?? file.history.receivedAt;
  return from === null ? null : from + file.rules.inspectionDays * DAY_MS;
}
function lastFullInspection({ history }) {
  return history.inspections.findLast(({ occasion }) => FULL_OCCASIONS.has(occasion)) ?? null;
}

// src/core/assess/rules/inspectionFailed.ts
var SEVERITY = { advise: "note", watch: "watch", hold: "hold" };
function inspectionFailed(file) {
  const holds = [];
  const open = /* @__PURE__ */ new Map();
  for (const look of file.history.inspections) {
    for (const item2 of answersOf(look)) {
      const { key, asks, note, answer } = item2;
      if (key === "swelling" || key === "warm" && isJustWarm(file, look)) continue;
      const means = meaning(file, look, item2);
      const { occasion, at, records } = look;
      const failure = { key, occasion, at, asks, note, means, records };
      if (answer === "fail" && means === "hold") holds.push(failure);
      else if (answer === "fail") open.set(key, failure);
      if (answer === "ok" || answer === "fail" && means === "hold") open.delete(key);
    }
  }
  const { fresh, old } = byAnswer(file, "inspection-failed", holds);
  const held = new Set(fresh.map(({ key }) => key));
  const milder = [...open.values()].filter(({ key }) => !held.has(key));
  return [
    ...told([...latestByItem(fresh), ...fresh.length > 0 ? milder : []]),
    ...told(latestByItem(old)),
    ...fresh.length > 0 ? [] : told(milder)
  ];
}
function answersOf(look) {
  const asked = look.items.some(({ key }) => key === "warm");
  const found = warmth(look);
  const answer = found === "sound" ? "ok" : "fail";
  const items = look.items.map(
    (item2) => item2.key === "warm" && found !== null && item2.answer !== "note" ? { ...item2, answer } : item2
  );
  if (asked || found === null || found === "sound") return items;
  return [
    ...items,
    { key: "warm", asks: "Warmth at rest", failMeans: "hold", answer, note: null, photoIds: [] }
  ];
}
function meaning({ history, rules }, look, { key, failMeans }) {
  if (history.pack.chemistry === "nimh" && key === "case") return "hold";
  const said = rules.checklists[look.occasion].find((item2) => item2.key === key)?.failMeans ?? failMeans;
  return meaningOf(key, said);
}
function latestByItem(failures) {
  const latest = /* @__PURE__ */ new Map();
  for (const failure of failures) {
    const before = latest.get(failure.key);
    latest.set(
      failure.key,
      before ? { ...failure, records: [...before.records, ...failure.records] } : failure
    );
  }
  return [...latest.values()];
}
function told(failures) {
  if (failures.length === 0) return [];
  const gravest = [...failures].sort(
    (a, b) => MEANINGS.indexOf(b.means) - MEANINGS.indexOf(a.means) || b.at - a.at
  );
  return [
    {
      rule: "inspection-failed",
      severity: SEVERITY[gravest[0].means],
      failures: gravest.map(({ records: _records, ...failure }) => failure),
      // A release answers what held; a milder failure found later is not new evidence for the hold.
      records: [
        ...new Set(
          gravest.filter(({ means }) => gravest[0].means !== "hold" || means === "hold").flatMap(({ records }) => records)
        )
      ]
    }
  ];
}

// src/core/assess/rules/landedLow.ts
var RECENT_FLIGHTS3 = 5;
function landedLow({ history, rules }) {
  const { pack, flights } = history;
  const limitMv = rules.flight.landAtMv[pack.chemistry];
  const read = flights.filter((flight) => lowestLoaded(flight, pack.series) !== null).slice(-RECENT_FLIGHTS3);
  const low = read.filter((flight) => lowestLoaded(flight, pack.series) < limitMv);
  const latest = read.at(-1);
  if (!latest || low.at(-1) !== latest) return [];
  return [
    {
      rule: "landed-low",
      severity: "note",
      mv: lowestLoaded(latest, pack.series),
      at: latest.at,
      limitMv,
      times: low.length,
      ofFlights: read.length,
      records: low.flatMap(({ records }) => records)
    }
  ];
}
function lowestLoaded({ landing }, series) {
  if (landing?.condition !== "loaded") return null;
  const { volts } = landing;
  return volts.of === "cells" ? Math.min(...volts.cellsMv) : Math.round(volts.packMv / series);
}

// src/core/assess/rules/longFull.ts
var LOOKED_BACK_DAYS = 365;
function longFull({ history, rules, measured, now }) {
  const { pack } = history;
  const { chemistry } = pack;
  if (!isLithium(chemistry) || pack.fieldPack) return [];
  const full = fullDays(history, measured.carried, rules, now);
  const { days } = full;
  const limitDays = rules.health.fullDaysAYear;
  if (days < limitDays) return [];
  const longest = full.longest();
  const records = measured.evidence.filter(({ at }) => at >= longest.from && at <= longest.to).flatMap((one) => one.records);
  return [
    {
      rule: "long-full",
      severity: "watch",
      days,
      limitDays,
      longestFrom: longest.from,
      longestTo: longest.to,
      records
    }
  ];
}
function fullDays(history, carried, rules, now) {
  return fullTimeBetween(history, carried, rules, now - LOOKED_BACK_DAYS * DAY_MS, now);
}

// src/core/assess/rules/longRest.ts
function longRest(file) {
  const dueAt = seasonStartDueAt(file);
  if (dueAt === null || file.now < dueAt) return [];
  const { seasonStartDays } = file.rules;
  const since = dueAt - seasonStartDays * DAY_MS;
  return [
    { rule: "long-rest", severity: "note", since, days: seasonStartDays, records: lastUse(file).records }
  ];
}
function seasonStartDueAt(file) {
  const { at } = lastUse(file);
  if (at === null) return null;
  const looked = file.history.inspections.findLast(({ occasion }) => occasion === "season-start")?.at ?? at;
  return Math.max(at, looked) + file.rules.seasonStartDays * DAY_MS;
}
function lastUse({ history }) {
  const flight = history.flights.at(-1);
  const charge = history.charges.findLast(({ mode }) => mode !== "storage");
  const last = flight && charge ? flight.at > charge.at ? flight : charge : flight ?? charge;
  return { at: last?.at ?? null, records: last?.records ?? [] };
}

// src/core/assess/rules/nimhTopUp.ts
function nimhTopUp(file) {
  const dueAt = topUpDueAt(file);
  if (dueAt === null || file.now < dueAt) return [];
  const everyDays = file.rules.nimhTopUpDays;
  const records = file.history.charges.at(-1)?.records ?? [];
  return [{ rule: "nimh-top-up", severity: "note", lastAt: dueAt - everyDays * DAY_MS, everyDays, records }];
}
function topUpDueAt({ history, rules }) {
  const { pack, charges, receivedAt } = history;
  const last = charges.at(-1)?.at ?? receivedAt;
  return pack.chemistry === "nimh" && last !== null ? last + rules.nimhTopUpDays * DAY_MS : null;
}

// src/core/assess/rules/notAsDelivered.ts
function notAsDelivered({ history, rules, rested, now }) {
  const { pack, receivedAt, before, charges, flights, inspections } = history;
  const receipt = inspections.find(({ occasion }) => occasion === "receipt");
  const first = rested[0];
  if (!receipt || !first || receivedAt === null || !isLithium(pack.chemistry)) return [];
  if (before !== null) return [];
  if (now - receivedAt > rules.returnDays * DAY_MS) return [];
  if ([...charges, ...flights].some(({ startedAt }) => startedAt <= first.at)) return [];
  const lowestMv = Math.min(...first.cellsMv);
  const highestMv = Math.max(...first.cellsMv);
  const { bandLowMv, bandHighMv } = rules.storage[pack.chemistry];
  const outsideBy = Math.max(0, bandLowMv - lowestMv, highestMv - bandHighMv);
  const spreadMv = highestMv - lowestMv;
  const limits = { arrivalMv: rules.arrivalMv, toleranceMv: rules.spread.toleranceMv };
  if (outsideBy <= limits.arrivalMv && spreadMv <= limits.toleranceMv) return [];
  return [
    {
      rule: "not-as-delivered",
      severity: "watch",
      at: first.at,
      lowestMv,
      highestMv,
      spreadMv,
      outsideBy,
      limits,
      records: [...first.records, ...receipt.records]
    }
  ];
}

// src/core/assess/rules/notKnown.ts
function notKnown(file) {
  const at = notKnownAt(file);
  if (at === null || file.now < at) return [];
  const afterDays = file.rules.health.unknownDays;
  const since = at - afterDays * DAY_MS;
  return [{ rule: "not-known", severity: "watch", since, afterDays, records: [] }];
}
function notKnownAt({ history, rules, latest }) {
  const { pack, resistances, charges, flights } = history;
  const known2 = [latest?.at, resistances.at(-1)?.at];
  if (!isLithium(pack.chemistry)) known2.push(charges.at(-1)?.at, flights.at(-1)?.at);
  const moments = known2.filter((at) => at !== void 0);
  return moments.length === 0 ? null : Math.max(...moments) + rules.health.unknownDays * DAY_MS;
}

// src/core/assess/rules/notRested.ts
function notRested({ undecided, rules }) {
  if (!undecided) return [];
  const { condition, at, records } = undecided;
  const restedFrom = at + rules.restMinutes * MINUTE_MS;
  return [{ rule: "not-rested", severity: "note", condition, at, restedFrom, records }];
}

// src/core/assess/rules/overDischargeEvent.ts
function overDischargeEvent({ history, rules, rested }) {
  const { overDischargeMv, damageMv, rechargeSoonMv } = rules.floors[history.pack.chemistry];
  if (overDischargeMv === null) return [];
  const last = rested.findLastIndex((reading) => {
    const { mv } = lowestCell(reading);
    return mv < overDischargeMv && mv >= damageMv;
  });
  const event = rested[last];
  if (!event) return [];
  const recovered = rested.slice(last + 1).find((reading) => lowestCell(reading).mv >= rechargeSoonMv);
  return [
    {
      rule: "over-discharge-event",
      severity: recovered ? "note" : "watch",
      low: lowestCell(event),
      limitMv: overDischargeMv,
      readSince: recovered ? lowestCell(recovered) : null,
      records: recovered ? [...event.records, ...recovered.records] : event.records
    }
  ];
}

// src/core/assess/rules/overDischarged.ts
function overDischarged(file) {
  if (!isLithium(file.history.pack.chemistry)) return [];
  const { overDischarged: school, recovery: recovery2 } = file.rules;
  return belowDamage(file, "over-discharged").map((breach) => {
    const recoverable = school === "supervised recovery" && breach.low.mv > recovery2.floorMv;
    return {
      rule: "over-discharged",
      severity: recoverable ? "hold" : "retire",
      school,
      recoveryFromMv: school === "retire" ? null : recovery2.floorMv,
      ...breach
    };
  });
}

// src/core/assess/rules/overfull.ts
function overfull(file) {
  const { history, rules } = file;
  const { fullMv } = CHEMISTRY[history.pack.chemistry];
  if (fullMv === null) return [];
  const holdFromMv = fullMv + rules.overfullHoldMv;
  const seen = everySight(file, fullMv);
  const wrong = byAnswer(
    file,
    "overfull",
    seen.filter(({ mv }) => mv >= holdFromMv)
  );
  const told4 = (list, severity) => {
    const last = list.at(-1);
    if (!last) return [];
    const { cell, mv, at, when } = last;
    const records = [...new Set(list.flatMap((one) => one.records))];
    return [{ rule: "overfull", severity, cell, mv, at, when, fullMv, holdFromMv, records }];
  };
  const holds = [...told4(wrong.fresh, "hold"), ...told4(wrong.old, "hold")];
  if (wrong.fresh.length > 0) return holds;
  const over = seen.findLast(({ mv, toleranceMv }) => mv > fullMv + toleranceMv && mv < holdFromMv);
  return over && !isCleared2(file, over) ? [...holds, ...told4([over], "watch")] : holds;
}
function everySight({ history, rules }, fullMv) {
  const { series } = history.pack;
  const read = [];
  for (const { at, volts, meterErrorMv, records } of history.readings) {
    const cellsMv = volts.of === "cells" ? volts.cellsMv : [Math.round(volts.packMv / series)];
    const top = highest(cellsMv);
    if (top.mv > fullMv) read.push({ at, ...top, toleranceMv: meterErrorMv, when: "read", records });
  }
  const ends = history.charges.flatMap(
    ({ at, endCellsMv, records }) => endCellsMv ? [{ at, ...highest(endCellsMv), toleranceMv: rules.charge.endOverMv, when: "charge-end", records }] : []
  );
  return ends.length === 0 ? read : [...read, ...ends].sort((a, b) => a.at - b.at);
}
function highest(cellsMv) {
  const mv = Math.max(...cellsMv);
  return { cell: cellsMv.indexOf(mv) + 1, mv };
}
function isCleared2({ history, rested }, { at }) {
  const since = (one) => one.at > at;
  return rested.some(since) || history.inspections.some((one) => since(one) && FULL_OCCASIONS.has(one.occasion)) || history.decisions.some((one) => since(one) && one.what.to === "release");
}

// src/core/assess/rules/rechargeSoon.ts
function rechargeSoon(file) {
  const { history, rules, latest, current, contents, measured } = file;
  const { chemistry } = history.pack;
  const { rechargeSoonMv } = rules.floors[chemistry];
  const pack = { ...history.pack, capacityMah: measured.capacityMah };
  if (current) {
    const low = lowestCell(current);
    if (low.mv >= rechargeSoonMv) return [];
    const job2 = storageJob(pack, current.cellsMv, rules);
    return [finding2(low, "read", rechargeSoonMv, job2, current.records)];
  }
  if (!contents || !isLithium(chemistry) || contents.basis === "stored") return [];
  if (contents.basis === "used") {
    if (!latest || history.charges.some(({ at }) => at > latest.at)) return [];
    const low = lowestCell(latest);
    return low.mv < rechargeSoonMv ? [finding2(low, "used", rechargeSoonMv, null, latest.records)] : [];
  }
  const cellsMv = contentsMv(chemistry, contents);
  const mv = Math.min(...cellsMv);
  if (mv >= rechargeSoonMv) return [];
  const cell = cellsMv.length > 1 ? cellsMv.indexOf(mv) + 1 : null;
  const job = storageJob(pack, cellsMv, rules);
  return [finding2({ cell, mv, at: contents.since }, contents.basis, rechargeSoonMv, job, contents.records)];
}
function finding2(low, basis, limitMv, job, records) {
  return { rule: "recharge-soon", severity: "note", low, basis, limitMv, job, records };
}

// src/core/assess/rules/resistance.ts
function resistanceGrowth(file) {
  const readings = readingsOf(file);
  const grown = mostGrown(readings);
  if (!grown) return [];
  const factors = growthOf(readings, grown.cell);
  return told2(file, "resistance-growth", grown, factors, file.rules.health.irGrowth);
}
function resistanceSiblings(file) {
  const readings = readingsOf(file);
  const last = readings.at(-1);
  const lines = file.rules.health.irSiblings;
  const lasting = mostApart(readings);
  const newest = last ? apartIn(last) : null;
  const apart = lasting && lasting.factor >= lines.watch - ROUNDING2 ? lasting : newest;
  if (!apart) return [];
  return told2(file, "resistance-siblings", apart, apartOf(readings, apart.cell), lines);
}
function resistanceJump(file) {
  const readings = readingsOf(file);
  const jump = lastJump(readings);
  const limitPercent = file.rules.health.irJumpPercent;
  if (!jump || jump.factor - 1 <= limitPercent / 100 + ROUNDING2) return [];
  const records = readings.slice(-2).flatMap((one) => one.records);
  return [{ rule: "resistance-jump", severity: "note", ...jump, limitPercent, records }];
}
function readingsOf({ history, measured }) {
  return comparable(history.resistances, measured.oddRecords);
}
function told2(file, rule, worst2, factors, lines) {
  const past = (line) => factors.filter((factor) => factor >= line - ROUNDING2).length;
  const newest = factors.at(-1) ?? 0;
  const severity = past(lines.retire) >= AGREEING ? "retire" : past(lines.watch) >= 2 || newest >= lines.retire - ROUNDING2 ? "watch" : newest >= lines.watch - ROUNDING2 ? "note" : null;
  if (!severity) return [];
  const agreeing = past(severity === "retire" ? lines.retire : lines.watch);
  const records = readingsOf(file).slice(-AGREEING).flatMap((one) => one.records);
  return [{ rule, severity, ...worst2, lines, agreeing, records }];
}

// src/core/assess/rules/runTime.ts
function runTime(file) {
  const { history, rules } = file;
  const times = runTimes(history.flights, rules.flight.coldC);
  const loss = times && runTimeLoss(times);
  const lines = rules.health.runTimeLossPercent;
  const reached = loss && risenTo(loss.percent, lines);
  if (!times || !loss || !reached) return [];
  const agree = loss.each.filter((percent2) => percent2 >= lines.retire - ROUNDING2).length >= AGREEING;
  const confirmed = loss.stepAt === null || [...capacity(file), ...resistanceGrowth(file)].length > 0;
  const severity = reached === "retire" && !(agree && confirmed) ? "watch" : reached;
  const { percent, stepAt, latest } = loss;
  const records = latest.flatMap((point) => point.records);
  return [{ rule: "run-time", severity, percent, craft: times.craft, lines, stepAt, records }];
}

// src/core/assess/rules/secondName.ts
function secondName({ history: { life } }) {
  if (life.state !== "retiring" || life.since === null || life.decidedBy === null) return [];
  return [
    { rule: "second-name", severity: "retire", at: life.since, by: life.decidedBy, records: life.records }
  ];
}

// src/core/assess/rules/shelfLoss.ts
var LEAST_DAYS = 3;
var RECENT_DAYS = 120;
function shelfLoss({ history, rules, rested, now }) {
  const { pack, charges, flights } = history;
  const { chemistry } = pack;
  if (!isLithium(chemistry) || pack.smart?.autoStorage) return [];
  const worked = [...charges, ...flights];
  const limitPercent = rules.health.leakPercentAWeek;
  for (let i = rested.length - 1; i > 0 && now - rested[i].at < RECENT_DAYS * DAY_MS; i--) {
    const to = rested[i];
    const from = rested[i - 1];
    const days = (to.at - from.at) / DAY_MS;
    if (days < LEAST_DAYS) continue;
    if (worked.some(({ at, startedAt }) => at > from.at && startedAt <= to.at)) continue;
    const losses = lostCells(chemistry, from, to);
    const most = Math.max(...losses);
    const percentAWeek = (most - leakedPercent(to.at - from.at)) / days * 7;
    if (percentAWeek <= limitPercent) break;
    if (most > rules.unlogged.fellPercent) break;
    return [
      {
        rule: "shelf-loss",
        severity: "watch",
        cell: to.byCell && losses.length > 1 ? losses.indexOf(most) + 1 : null,
        percentAWeek,
        limitPercent,
        fromAt: from.at,
        toAt: to.at,
        records: [...from.records, ...to.records]
      }
    ];
  }
  return lossAgainAndAgain(chemistry, rested, worked, limitPercent, now);
}
var REPEATED = 5;
var LEAST_REPEATED_DAYS = 2;
function lossAgainAndAgain(chemistry, rested, worked, limitPercent, now) {
  const times = [];
  for (let i = rested.length - 1; i > 0 && times.length < REPEATED; i--) {
    const [from, to] = [rested[i - 1], rested[i]];
    const days = (to.at - from.at) / DAY_MS;
    if (now - to.at > RECENT_DAYS * DAY_MS) break;
    if (days < LEAST_REPEATED_DAYS || !to.byCell || to.cellsMv.length < 2) continue;
    if (from.cellsMv.length !== to.cellsMv.length) continue;
    if (worked.some(({ at, startedAt }) => at > from.at && startedAt <= to.at)) continue;
    const lost = to.cellsMv.map(
      (mv, c) => socPercent(chemistry, from.cellsMv[c]) - socPercent(chemistry, mv)
    );
    const losses = lost.map((one, c) => (one - median(lost.filter((_, other) => other !== c))) / days * 7);
    times.push({ losses, from, to });
  }
  if (times.length < REPEATED) return [];
  const middles = times[0].losses.map((_, c) => median(times.map(({ losses }) => losses[c])));
  const percentAWeek = Math.max(...middles);
  if (percentAWeek <= limitPercent) return [];
  const records = times.flatMap(({ from, to }) => [...from.records, ...to.records]);
  return [
    {
      rule: "shelf-loss",
      severity: "watch",
      cell: middles.indexOf(percentAWeek) + 1,
      percentAWeek,
      limitPercent,
      fromAt: times.at(-1).from.at,
      toAt: times[0].to.at,
      records: [...new Set(records)]
    }
  ];
}
function lostCells(chemistry, from, to) {
  if (from.cellsMv.length !== to.cellsMv.length) return [0];
  return to.cellsMv.map(
    (mv, i) => soc(chemistry, from.cellsMv[i], from.meterErrorMv).lowPercent - soc(chemistry, mv, to.meterErrorMv).highPercent
  );
}

// src/core/assess/rules/memoryUnread.ts
function memoryUnread({ history: { pack, memories } }) {
  if (!pack.smart) return [];
  const { notReadBack } = asSet(pack.smart, memories);
  if (!notReadBack || notReadBack.did === "read") return [];
  const { did, at, records } = notReadBack;
  return [{ rule: "memory-unread", severity: "note", did, at, records }];
}

// src/core/assess/rules/ownFaults.ts
function ownFaults({ history }) {
  const rise = latestFaultRise(history);
  if (!rise || history.inspections.some(({ at }) => at >= rise.to.at)) return [];
  const { from, to, holderId } = rise;
  return [
    {
      rule: "own-faults",
      severity: "note",
      faults: to.faults - from.faults,
      fromAt: from.at,
      toAt: to.at,
      holderId,
      records: [...from.records, ...to.records]
    }
  ];
}
function latestFaultRise(history) {
  const counts = history.counts.filter((one) => one.faults !== null);
  for (let i = counts.length - 1; i > 0; i -= 1) {
    const [from, to] = [counts[i - 1], counts[i]];
    if (to.faults > from.faults) return { from, to, holderId: holderThrough(history, from.at, to.at) };
  }
  return null;
}
function holderThrough({ takings }, fromAt, toAt) {
  const during = takings.filter(({ at, endedAt }) => at < toAt && (endedAt === null || endedAt > fromAt));
  const holders = new Set(during.map(({ holderId }) => holderId));
  return holders.size === 1 ? during[0].holderId : null;
}

// src/core/assess/memoryByRules.ts
function memoryByRules(pack, rules) {
  const { targetMv, bandLowMv, bandHighMv } = rules.storage[pack.chemistry];
  return {
    afterHours: allowance(pack, "high", rules),
    storageMv: targetMv,
    bandLowMv,
    bandHighMv,
    topMv: rules.topMv[pack.chemistry],
    chargeA: Math.min(rules.charge.homeC, pack.chargeC ?? 1) * (pack.capacityMah / 1e3)
  };
}

// src/core/assess/rules/smartSettings.ts
var ROUNDING3 = 0.01;
function smartSettings({ history, rules }) {
  const { pack, memories } = history;
  const { chemistry, smart } = pack;
  if (!smart || !isLithium(chemistry)) return [];
  const { storage, topMv, chargeA, read } = asSet(smart, memories);
  const wrong = [];
  const wanted = memoryByRules({ ...pack, chemistry }, rules);
  if (storage && !storage.isOn) wrong.push({ is: "off" });
  else if (storage?.afterHours != null && storage.afterHours > wanted.afterHours)
    wrong.push({ is: "late", afterHours: storage.afterHours, allowanceHours: wanted.afterHours });
  const { bandLowMv, bandHighMv, chargeA: limitA, topMv: limitMv } = wanted;
  if (storage?.isOn && storage.mv !== null && (storage.mv < bandLowMv || storage.mv > bandHighMv))
    wrong.push({ is: "storage-volts", mv: storage.mv, lowMv: bandLowMv, highMv: bandHighMv });
  if (chargeA !== null && chargeA > limitA * (1 + ROUNDING3))
    wrong.push({ is: "rate", amps: chargeA, limitA });
  if (topMv !== null && topMv > limitMv) wrong.push({ is: "top", mv: topMv, limitMv });
  if (wrong.length === 0) return [];
  return [{ rule: "smart-settings", severity: "note", wrong, records: read?.records ?? [] }];
}

// src/core/assess/rules/spreadRule.ts
var LITTLE = 0.2;
function spreadRule({ history, rules, rested, current }) {
  const { chemistry } = history.pack;
  if (!current?.byCell || !isLithium(chemistry)) return [];
  const { mv, lowestCell: lowestCell2, ...ends } = spread(current.cellsMv);
  const limits = rules.spread;
  if (mv <= limits.toleranceMv) return [];
  const socPercent2 = certainSocSpreadPercent(chemistry, ends, current.meterErrorMv);
  const balanced = balancedBefore(history, rested);
  const inCharge = socSpreadPercent(chemistry, ends);
  const much = inCharge > limits.watchSocPercent * LITTLE;
  const watched = mv > limits.watchMv && much || socPercent2 > limits.watchSocPercent;
  const gone = balanced && mv > limits.retireMv && inCharge > limits.watchSocPercent;
  const severity = gone ? "retire" : watched ? "watch" : "note";
  return [
    {
      rule: "spread",
      severity,
      mv,
      lowestCell: lowestCell2,
      socPercent: Math.max(socPercent2, 0),
      limits,
      balancedAt: balanced?.at ?? null,
      records: balanced ? [...balanced.records, ...current.records] : current.records
    }
  ];
}
function balancedBefore({ charges, flights }, rested) {
  const [before, latest] = [rested.at(-2), rested.at(-1)];
  const charge = charges.findLast(({ at }) => at <= latest.at);
  if (charge?.mode !== "balance" || charge.ending !== "complete") return null;
  if (before && before.at > charge.at) return null;
  return flights.some(({ at }) => at > charge.at && at <= latest.at) ? null : charge;
}

// src/core/assess/rules/storageBand.ts
function storageBand({
  history,
  rules,
  current,
  contents,
  storage,
  measured
}) {
  const { chemistry } = history.pack;
  if (storage.state === "self-storing") {
    const { since, bledAt, records } = storage;
    return [{ rule: "self-storing", severity: "note", since, bledAt, records }];
  }
  if (storage.state !== "high" && storage.state !== "low") return [];
  if (!contents || !isLithium(chemistry)) return [];
  const { bandLowMv, bandHighMv } = rules.storage[chemistry];
  const cellsMv = current?.cellsMv ?? contentsMv(chemistry, contents);
  const lowestMv = Math.min(...cellsMv);
  const mv = storage.state === "high" ? Math.max(...cellsMv) : lowestMv;
  const named = lowestMv < rules.floors[chemistry].rechargeSoonMv;
  const pack = { ...history.pack, capacityMah: measured.capacityMah };
  const job = named ? null : storageJob(pack, cellsMv, rules);
  const rule = `storage-${storage.state}`;
  const basis = current ? "read" : contents.basis;
  return [
    {
      rule,
      severity: "note",
      mv,
      basis,
      bandLowMv,
      bandHighMv,
      clock: storage,
      job,
      records: storage.records
    }
  ];
}

// src/core/assess/rules/storagePending.ts
function storagePending({ storage, rules }) {
  if (storage.state !== "pending") return [];
  const { by, since, records } = storage;
  const restedFrom = since + rules.restMinutes * MINUTE_MS;
  return [{ rule: "storage-pending", severity: "note", by, since, restedFrom, records }];
}

// src/core/assess/rules/swollen.ts
function swollen({ history, rules }) {
  const { inspections } = history;
  if (inspections.length === 0) return [];
  const baseline = inspections.find(({ thicknessMm: thicknessMm2 }) => thicknessMm2 !== null) ?? null;
  const limits = rules.swelling;
  const growth = ({ thicknessMm: thicknessMm2 }) => thicknessMm2 === null || !baseline ? null : thickerPercent(thicknessMm2, baseline.thicknessMm);
  const held = inspections.findLast((one) => isFelt(one) || (growth(one) ?? 0) >= limits.holdPercent);
  const measured = inspections.findLast(({ thicknessMm: thicknessMm2 }) => thicknessMm2 !== null);
  const watched = measured && (growth(measured) ?? 0) >= limits.watchPercent ? measured : null;
  const told4 = held ?? watched;
  if (!told4) return [];
  const severity = held ? "hold" : "watch";
  const { at, swelling, thicknessMm } = told4;
  const percent = growth(told4);
  const compared = percent !== null && told4 !== baseline;
  return [
    {
      rule: "swollen",
      severity,
      at,
      swelling: isFelt(told4) ? swelling === "none" ? null : swelling : null,
      thicknessMm,
      baselineMm: compared ? baseline.thicknessMm : null,
      percent: compared ? percent : null,
      limits,
      records: compared ? [...baseline.records, ...told4.records] : told4.records
    }
  ];
}
function isFelt({ swelling, items }) {
  if (swelling === "soft" || swelling === "hard") return true;
  return items.some(({ key, answer }) => key === "swelling" && answer === "fail");
}

// src/core/assess/rules/twoHands.ts
function twoHands({ history: { custody } }) {
  if (!custody?.alsoWith) return [];
  const { holderId, since, recordId, alsoWith } = custody;
  return [
    {
      rule: "two-hands",
      severity: "note",
      first: alsoWith.person,
      firstAt: alsoWith.since,
      second: holderId,
      secondAt: since,
      records: [alsoWith.recordId, recordId].filter((id) => id !== null)
    }
  ];
}

// src/core/assess/rules/unlogged.ts
function unlogged({ history, rules, rested }) {
  const { pack, charges, flights } = history;
  const [from, to] = rested.slice(-2);
  if (!from || !to || !isLithium(pack.chemistry) || charges.length + flights.length === 0) return [];
  const between = ({ at }) => at > from.at && at <= to.at;
  if (charges.some(between) || flights.some(between)) return [];
  const direction = certainRise(pack.chemistry, from, to) > rules.unlogged.rosePercent ? "charge" : !pack.smart?.autoStorage && certainRise(pack.chemistry, to, from) > rules.unlogged.fellPercent ? "use" : null;
  if (!direction) return [];
  return [
    {
      rule: "unlogged",
      severity: "note",
      direction,
      fromAt: from.at,
      toAt: to.at,
      fromMv: Math.min(...from.cellsMv),
      toMv: Math.min(...to.cellsMv),
      records: [...from.records, ...to.records]
    }
  ];
}
function certainRise(chemistry, from, to) {
  const before = soc(chemistry, Math.min(...from.cellsMv), from.meterErrorMv).highPercent;
  return soc(chemistry, Math.min(...to.cellsMv), to.meterErrorMv).lowPercent - before;
}

// src/core/assess/rules/unmeasured.ts
function unmeasured({ storage, rules, latest }) {
  if (storage.state !== "unmeasured") return [];
  const { why, since, records } = storage;
  const lastReadAt = latest?.at ?? null;
  if (since === null)
    return [{ rule: "unmeasured", severity: "watch", why, since, lastReadAt, restedFrom: null, records }];
  const restedFrom = why === "used" ? since + rules.restMinutes * MINUTE_MS : since;
  return [{ rule: "unmeasured", severity: "note", why, since, lastReadAt, restedFrom, records }];
}

// src/core/assess/rules/weakCell.ts
function weakCell({ history, rules, rested }) {
  const weak = weakAfterUse(rested, history.flights, history.charges);
  const lines = rules.health.weakCellMv;
  const reached = weak && risenTo(weak.belowMv, lines);
  const severity = reached && chargeBelow(history.pack.chemistry, weak) <= rules.spread.watchSocPercent ? "note" : reached;
  if (!weak || !severity) return [];
  const { mv: _mv, ...told4 } = weak;
  return [{ rule: "weak-cell", severity, ...told4, lines }];
}
function chargeBelow(chemistry, { mv, belowMv }) {
  if (!isLithium(chemistry)) return 100;
  return socPercent(chemistry, mv + belowMv) - socPercent(chemistry, mv);
}

// src/core/assess/rules/weakestAgain.ts
function weakestAgain({ history, rules, rested }) {
  const { chemistry } = history.pack;
  if (!isLithium(chemistry)) return [];
  const limits = rules.health.recurrence;
  const again = recurrence(rested, history.charges, chemistry, rules.spread, limits);
  if (!again) return [];
  const severity = again.timesAgain >= limits.times ? "retire" : "watch";
  return [{ rule: "weakest-again", severity, ...again, limits }];
}

// src/core/assess/rules/wear.ts
function cycleCount({ history, rules }) {
  const { count: count2, guessed, records } = cycles(history, rules.flight.maxDodPercent);
  const limit = rules.health.cycles[history.pack.chemistry];
  return count2 >= limit ? [{ rule: "cycles", severity: "watch", count: count2, guessed, limit, records }] : [];
}
function age({ history, rules, now }) {
  const years = ageYears(history, now);
  const { dutyClass } = history.pack;
  const limit = rules.health.ageYears[dutyClass];
  return years !== null && years >= limit ? [{ rule: "age", severity: "watch", years, limit, dutyClass, records: [] }] : [];
}

// src/core/assess/rules/wearsFaster.ts
var NEWS_DAYS2 = 120;
function wearsFaster({ history, rules, measured, now }) {
  return outlooksKept(history, measured, rules).flatMap((outlook) => {
    const { changed } = alarmsOf(outlook);
    const { lastAt } = outlook.wear;
    if (!changed || now - lastAt > NEWS_DAYS2 * DAY_MS) return [];
    const { at: since, how, seen: values } = changed;
    const records = outlook.measure === "capacity" ? measured.capacity.slice(-values).flatMap((point) => point.records) : history.resistances.slice(-values).flatMap((reading) => reading.records);
    return [
      {
        rule: "wears-faster",
        severity: "watch",
        measure: outlook.measure,
        how,
        since,
        values,
        lastAt,
        records: [...new Set(records)]
      }
    ];
  });
}

// src/core/rules/presets.ts
var EVEN_KEEL = {
  preset: "even-keel",
  storage: {
    lipo: { targetMv: 3800, bandLowMv: 3700, bandHighMv: 3850 },
    lihv: { targetMv: 3850, bandLowMv: 3750, bandHighMv: 3900 },
    liion: { targetMv: 3680, bandLowMv: 3550, bandHighMv: 3800 },
    lifepo4: { targetMv: 3280, bandLowMv: 3220, bandHighMv: 3310 }
  },
  allowance: { highHours: 48, lowHours: 24, fieldHighHours: 336 },
  floors: {
    lipo: { rechargeSoonMv: 3500, overDischargeMv: 3200, damageMv: 3e3 },
    lihv: { rechargeSoonMv: 3500, overDischargeMv: 3200, damageMv: 3e3 },
    liion: { rechargeSoonMv: 3200, overDischargeMv: 2800, damageMv: 2500 },
    lifepo4: { rechargeSoonMv: 3e3, overDischargeMv: 2600, damageMv: 2e3 },
    nimh: { rechargeSoonMv: 1e3, overDischargeMv: null, damageMv: 900 }
  },
  topMv: { lipo: 4200, lihv: 4350, liion: 4200, lifepo4: 3600 },
  overfullHoldMv: 50,
  spread: { toleranceMv: 20, watchMv: 50, retireMv: 100, watchSocPercent: 5 },
  charge: {
    homeC: 1,
    fieldC: 2,
    afterRestC: 1,
    fieldHours: 12,
    balanceEvery: 1,
    endOverMv: 10,
    overNotePercent: 105,
    overHoldPercent: 120,
    nimhPercent: 160,
    tooFastPercent: 50,
    tooLongPercent: 200,
    coldC: 5,
    warmLandingMinutes: 30,
    stillHereMinutes: 20
  },
  flight: {
    landAtMv: { lipo: 3500, lihv: 3500, liion: 3100, lifepo4: 2900, nimh: 1e3 },
    maxDodPercent: 80,
    chargedPercent: 80,
    coldC: 10,
    outHours: 48
  },
  health: {
    weakCellMv: { watch: 100, retire: 200 },
    recurrence: { times: 3, inCharges: 5 },
    irGrowth: { watch: 1.5, retire: 2 },
    irSiblings: { watch: 1.3, retire: 2 },
    irJumpPercent: 30,
    capacityPercent: { watch: 80, retire: 70 },
    runTimeLossPercent: { watch: 20, retire: 40 },
    failedBalances: 3,
    fullDaysAYear: 30,
    leakPercentAWeek: 3,
    unknownDays: 90,
    cycles: { lipo: 300, lihv: 300, liion: 500, lifepo4: 1500, nimh: 500 },
    ageYears: { hard: 2, normal: 3, gentle: 5 }
  },
  heat: {
    useWatchC: 55,
    useHoldC: 60,
    chargeWatchC: 40,
    chargeHoldC: 45,
    nimhChargeC: 60,
    coolMinutes: 60
  },
  bleedDays: 6,
  unlogged: { rosePercent: 15, fellPercent: 25 },
  returnDays: 30,
  nimhTopUpDays: 90,
  shelfC: 20,
  afterCrash: "hold, inspect, watch",
  overDischarged: "retire",
  incidents: { watchMinutes: 60, overnightHours: 12 },
  recovery: { minutes: 30, currentC: 0.1, floorMv: 2500, restHours: 24 },
  endOfLife: { reboundHours: 24, confirmDays: 180, handOver: "drained" },
  idle: { everyDays: 30, doing: "read" },
  retirementNames: 1,
  inspectionDays: 60,
  seasonStartDays: 60,
  baselineDays: 14,
  arrivalMv: 100,
  swelling: { watchPercent: 5, holdPercent: 10 },
  stowage: { warmC: 30, mixing: "allowed" },
  checklists: DEFAULT_CHECKLISTS,
  restMinutes: 30
};
var LONG_SERVICE = {
  ...EVEN_KEEL,
  preset: "long-service",
  storage: { ...EVEN_KEEL.storage, lipo: { targetMv: 3800, bandLowMv: 3750, bandHighMv: 3850 } },
  allowance: { highHours: 24, lowHours: 12, fieldHighHours: 168 },
  topMv: { ...EVEN_KEEL.topMv, lipo: 4150 },
  charge: { ...EVEN_KEEL.charge, homeC: 0.5, fieldC: 1 },
  flight: { ...EVEN_KEEL.flight, landAtMv: { ...EVEN_KEEL.flight.landAtMv, lipo: 3700 }, maxDodPercent: 60 },
  afterCrash: "retire",
  idle: { everyDays: 30, doing: "cycle" },
  retirementNames: 2,
  inspectionDays: 30,
  seasonStartDays: 45,
  stowage: { warmC: 25, mixing: "kept apart" }
};
var READY_STATE = {
  ...EVEN_KEEL,
  preset: "ready-state",
  storage: { ...EVEN_KEEL.storage, lipo: { targetMv: 3850, bandLowMv: 3700, bandHighMv: 3900 } },
  allowance: { highHours: 168, lowHours: 48, fieldHighHours: 720 },
  charge: { ...EVEN_KEEL.charge, homeC: 1, fieldC: 3, balanceEvery: 5 },
  spread: { ...EVEN_KEEL.spread, toleranceMv: 30 },
  overDischarged: "supervised recovery",
  idle: { everyDays: 60, doing: "read" },
  inspectionDays: 90,
  seasonStartDays: 90
};
var PRESET_RULES = {
  "long-service": LONG_SERVICE,
  "even-keel": EVEN_KEEL,
  "ready-state": READY_STATE
};
var DEFAULT_PRESET = "even-keel";

// src/core/assess/rules/wrongSetting.ts
function wrongSetting(file) {
  const { pack, charges } = file.history;
  const isDangerous = (charge) => slipsOf(pack, charge).some((slip) => ruins(pack.chemistry, charge.mode, slip));
  const dangerous = byAnswer(file, "wrong-setting", charges.filter(isDangerous));
  const latest = charges.at(-1);
  const milder = latest && !isDangerous(latest) ? [latest] : [];
  return [
    ...told3(pack, dangerous.fresh, "hold"),
    ...told3(pack, dangerous.old, "hold"),
    ...told3(pack, milder, "watch")
  ];
}
function told3(pack, charges, severity) {
  const charge = charges.at(-1);
  const slips = charge ? slipsOf(pack, charge) : [];
  if (!charge || slips.length === 0) return [];
  const records = charges.flatMap((one) => one.records);
  return [{ rule: "wrong-setting", severity, at: charge.at, mode: charge.mode, slips, records }];
}
function slipsOf(pack, { settings, mode }) {
  const { fullMv } = CHEMISTRY[pack.chemistry];
  const { chemistry, cells, topMv, currentA } = settings;
  const labelA = pack.chargeC === null ? null : pack.chargeC * pack.capacityMah / 1e3;
  const slips = [];
  if (chemistry !== null && chemistry !== pack.chemistry)
    slips.push({ of: "chemistry", set: chemistry, wanted: pack.chemistry });
  if (cells !== null && cells !== pack.series) slips.push({ of: "cells", set: cells, wanted: pack.series });
  if (mode === "discharge") return slips;
  if (topMv !== null && fullMv !== null && topMv > fullMv)
    slips.push({ of: "top", set: topMv, wanted: fullMv });
  if (currentA !== null && labelA !== null && currentA > labelA * ROUNDING4)
    slips.push({ of: "current", set: currentA, wanted: labelA });
  return slips;
}
var ROUNDING4 = 1.005;
var EMPTY_MV = PRESET_RULES[DEFAULT_PRESET].floors;
function ruins(own, mode, slip) {
  const filling = mode !== "discharge";
  switch (slip.of) {
    case "chemistry": {
      if (mode === "discharge") return EMPTY_MV[slip.set].rechargeSoonMv < EMPTY_MV[own].rechargeSoonMv;
      const [set, full] = [CHEMISTRY[slip.set].fullMv, CHEMISTRY[own].fullMv];
      return set === null || full === null || set > full;
    }
    case "cells":
      if (mode === "storage") return true;
      return filling ? slip.set > slip.wanted : slip.set < slip.wanted;
    case "top":
      return true;
    case "current":
      return false;
    default:
      return slip;
  }
}

// src/core/assess/judges.ts
var JUDGES = {
  incident,
  "second-name": secondName,
  recovery,
  "held-by-hand": heldByHand,
  swollen,
  "inspection-failed": inspectionFailed,
  "over-discharged": overDischarged,
  "damage-floor": damageFloor,
  overfull,
  "wrong-setting": wrongSetting,
  "charge-implausible": chargeImplausible,
  "hot-use": hotUse,
  "hot-charge": hotCharge,
  "over-discharge-event": overDischargeEvent,
  "recharge-soon": rechargeSoon,
  cooling,
  unmeasured,
  "not-known": notKnown,
  "field-charged": fieldCharged,
  "self-storing": storageBand,
  "storage-high": "self-storing",
  "storage-low": "self-storing",
  "storage-pending": storagePending,
  spread: spreadRule,
  "weak-cell": weakCell,
  "cell-drift": cellDrift2,
  "weakest-again": weakestAgain,
  "charge-failed": chargeFailed,
  "shelf-loss": shelfLoss,
  "resistance-growth": resistanceGrowth,
  "resistance-siblings": resistanceSiblings,
  "resistance-jump": resistanceJump,
  capacity,
  "run-time": runTime,
  "wears-faster": wearsFaster,
  "not-as-delivered": notAsDelivered,
  "long-full": longFull,
  cycles: cycleCount,
  age,
  "landed-low": landedLow,
  "two-hands": twoHands,
  "deep-use": deepUse,
  "charge-habits": chargeHabits,
  "balance-due": balanceDue,
  "smart-settings": smartSettings,
  "memory-unread": memoryUnread,
  "own-faults": ownFaults,
  "cold-use": coldUse,
  "not-rested": notRested,
  unlogged,
  "inspection-asked": inspectionAsked,
  "long-rest": longRest,
  "baseline-missing": baselineMissing,
  "nimh-top-up": nimhTopUp,
  "inspection-due": inspectionDue,
  idle
};
var RULES = Object.keys(RULE_FACTS).flatMap((id) => {
  const judge = JUDGES[id];
  const { takesOut, timed } = RULE_FACTS[id];
  return typeof judge === "string" ? [] : [{ judge, mayTakeOut: takesOut !== void 0, timed: timed === true }];
});

// src/core/assess/due.ts
function dueTasks(file) {
  const reading = file.rules.idle.doing === "cycle" ? "cycle" : "re-read";
  const seasonAt = seasonStartDueAt(file);
  const inspectAt = inspectionDueAt(file);
  const covered = seasonAt !== null && inspectAt !== null && seasonAt <= inspectAt;
  return [
    ...task("inspect-season", seasonAt, "long-rest"),
    ...task("complete-baseline", baselineDueAt(file), "baseline-missing"),
    ...task("inspect", covered ? null : inspectAt, "inspection-due"),
    ...task("top-up", topUpDueAt(file), "nimh-top-up"),
    ...task(reading, idleDueAt(file), "idle")
  ].sort((a, b) => a.dueAt - b.dueAt);
}
function task(kind, dueAt, because) {
  return dueAt === null ? [] : [{ do: kind, dueAt, because }];
}

// src/core/assess/steps.ts
function stepsFor(file, findings, needs, harm) {
  const { life } = file.history;
  if (!isInService(life)) return endStep(file, findings, harm);
  const held = findings.find(speaksAgainstUse);
  if (held) return [heldStep(file, held, findings.filter(speaksAgainstUse), needs)];
  const steps = findings.flatMap((finding3) => stepOf(finding3, file));
  for (const { do: task2, dueAt, because } of dueTasks(file)) steps.push({ do: task2, dueAt, because });
  const pressing = steps.sort(byPressure);
  return pressing.filter((step, i) => pressing.findIndex((other) => other.do === step.do) === i);
}
function heldStep({ now }, worst2, held, needs) {
  const by = (rule) => held.find((finding3) => finding3.rule === rule);
  if (by("second-name")) return { do: "second-name", dueAt: null, because: "second-name" };
  const recovery2 = held.find((finding3) => finding3.rule === "recovery");
  if (recovery2?.how === "running")
    return { do: "attend-recovery", dueAt: recovery2.endsAt, because: "recovery" };
  const begun2 = by("incident") ?? by("held-by-hand");
  if (!begun2) return { do: "set-apart", dueAt: null, because: worst2.rule };
  const because = begun2.rule;
  const watched = held.flatMap(
    (finding3) => finding3.rule === "incident" && finding3.watchUntil !== null ? [finding3.watchUntil] : []
  );
  const until = Math.max(...watched, 0);
  if (now < until) return { do: "keep-off", dueAt: until, because };
  const lacks = (need) => needs.some((one) => one.need === need && !one.met);
  if (lacks("nothing-releases")) return { do: "decide", dueAt: null, because };
  if (needs.some((one) => one.need === "inspection" && one.found === "none yet"))
    return { do: "inspect-held", dueAt: until || null, because };
  if (lacks("reading")) return { do: "read-held", dueAt: null, because };
  return { do: "decide", dueAt: null, because };
}
var BEFORE_DISCHARGE = /* @__PURE__ */ new Set(["retired", "marked"]);
function endStep(file, findings, harm) {
  const { rules, now } = file;
  const { life } = file.history;
  const step = (what, dueAt = life.since) => [
    { do: what, dueAt, because: null }
  ];
  const watched = watchedUntil(findings, rules);
  if (BEFORE_DISCHARGE.has(life.state) && now < watched) return step("keep-off", watched);
  switch (life.state) {
    case "in-service":
    case "retiring":
    case "recycled":
      return [];
    case "retired":
      return step("mark-red");
    case "marked":
      return step(harm.length > 0 ? "pack-apart" : "drain");
    case "discharging":
      return step("verify-empty");
    case "resting":
      return step("verify-again", (life.since ?? 0) + rules.endOfLife.reboundHours * HOUR_MS);
    case "flat":
    case "unsafe":
      return step("insulate");
    case "insulated":
      return step("bin");
    case "binned":
      return step("consign");
    case "consigned":
      return step("hand-over");
    default:
      return life.state;
  }
}
function stepOf(finding3, file) {
  const because = finding3.rule;
  switch (finding3.rule) {
    case "unmeasured":
      return [{ do: "measure", dueAt: finding3.restedFrom ?? file.history.receivedAt, because }];
    case "not-known":
      return [{ do: "measure", dueAt: finding3.since + finding3.afterDays * DAY_MS, because }];
    case "cooling":
      return [{ do: "feel-again", dueAt: finding3.againFrom, because }];
    case "field-charged":
      return [{ do: "fly-or-drain", dueAt: finding3.dueAt, because }];
    case "self-storing":
      return [{ do: "measure-rested", dueAt: finding3.bledAt, because }];
    case "smart-settings":
      return [{ do: "set-smart", dueAt: null, because }];
    case "memory-unread":
      return [{ do: "read-memory", dueAt: null, because }];
    case "own-faults":
      return [{ do: "inspect", dueAt: finding3.toAt, because }];
    case "balance-due":
      return [{ do: "balance", dueAt: null, because }];
    case "wears-faster":
      return [{ do: "measure-again", dueAt: null, because }];
    case "storage-pending":
      return [{ do: "measure-rested", dueAt: finding3.restedFrom, because }];
    case "not-rested":
      return [{ do: "measure-rested", dueAt: finding3.restedFrom, because }];
    case "recharge-soon":
      if (finding3.job?.inTheWay) return [{ do: "balance", dueAt: finding3.low.at, because }];
      if (finding3.basis === "used") return [];
      return [{ do: finding3.job ? "store-up-now" : "top-up", dueAt: finding3.low.at, because }];
    case "storage-high":
      return [{ do: finding3.job?.inTheWay ? "balance" : "store-down", dueAt: finding3.clock.dueAt, because }];
    case "storage-low":
      return [{ do: finding3.job?.inTheWay ? "balance" : "store-up", dueAt: finding3.clock.dueAt, because }];
    case "spread":
      return [{ do: "balance", dueAt: null, because }];
    case "overfull":
      return [{ do: "store-down", dueAt: finding3.at, because }];
    case "over-discharge-event":
      return finding3.readSince || file.current === null ? [] : [{ do: "store-up-now", dueAt: finding3.low.at, because }];
    case "charge-failed":
      return [{ do: "balance", dueAt: null, because }];
    case "resistance-jump":
      return [{ do: "measure-resistance", dueAt: null, because }];
    case "weak-cell":
    case "cell-drift":
    case "weakest-again":
    case "resistance-growth":
    case "resistance-siblings":
    case "capacity":
    case "run-time":
    case "long-full":
    case "shelf-loss":
    case "cycles":
    case "age":
      return [{ do: "review", dueAt: null, because }];
    case "wrong-setting":
    case "charge-implausible":
    case "hot-charge":
      return [{ do: "check-charger", dueAt: null, because }];
    case "hot-use":
      return [{ do: "review", dueAt: null, because }];
    case "inspection-failed":
      return [{ do: "mend", dueAt: null, because }];
    case "swollen":
      return [{ do: "review", dueAt: null, because }];
    case "not-as-delivered":
      return [{ do: "send-back", dueAt: finding3.at, because }];
    case "inspection-asked":
      return [{ do: "inspect", dueAt: finding3.at, because }];
    case "incident":
    case "held-by-hand":
    case "recovery":
    case "second-name":
      return [{ do: "review", dueAt: null, because }];
    case "long-rest":
    case "baseline-missing":
    case "inspection-due":
    case "landed-low":
    case "two-hands":
    case "deep-use":
    case "cold-use":
    case "charge-habits":
    case "unlogged":
    case "nimh-top-up":
    case "damage-floor":
    case "over-discharged":
    case "idle":
      return [];
    default:
      return finding3;
  }
}
function byPressure(a, b) {
  return pressureClass(a) - pressureClass(b) || (a.dueAt ?? 0) - (b.dueAt ?? 0) || STEP_KINDS.indexOf(a.do) - STEP_KINDS.indexOf(b.do);
}
function pressureClass(step) {
  if (step.because !== null && RULE_FACTS[step.because].asks === "routine") return 3;
  if (step.do === "store-up-now" || step.do === "top-up") return 0;
  return step.dueAt === null ? 2 : 1;
}
var READING_STEPS = /* @__PURE__ */ new Set(["measure", "measure-rested", "re-read", "cycle"]);
function readingStep(steps) {
  return steps.find((step) => READING_STEPS.has(step.do)) ?? null;
}

// src/core/assess/assess.ts
var timeless2 = /* @__PURE__ */ new WeakMap();
function findingsOf(file) {
  const { history, rules } = file;
  let kept = timeless2.get(history);
  if (kept?.rules !== rules) {
    kept = {
      rules,
      found: new Map(RULES.filter(({ timed }) => !timed).map(({ judge }) => [judge, judge(file)]))
    };
    timeless2.set(history, kept);
  }
  const { found } = kept;
  return RULES.flatMap(({ judge }) => found.get(judge) ?? judge(file));
}
function assess(history, rules, now) {
  const file = caseFile(history, rules, now);
  const weighed = [...answered(file, findingsOf(file))].sort(worstFirst);
  const { life } = history;
  const verdict = verdictOf(life, weighed);
  const findings = isOutOfUse(verdict) ? weighed.filter(({ rule }) => RULE_FACTS[rule].asks === void 0) : weighed;
  const decides = isOutOfUse(verdict) && isInService(life);
  const needs = decides ? releaseNeeds(file, findings) : [];
  const harm = harmOf(findings);
  return {
    verdict,
    mayFly: isOutOfUse(verdict) ? "no" : mayFly(findings),
    charged: chargedOf(file),
    findings,
    storage: file.storage,
    steps: stepsFor(file, findings, needs, harm),
    due: isOutOfUse(verdict) ? [] : dueTasks(file),
    life,
    watch: watchOf(file, findings),
    outSince: decides ? outSince(history, findings) : null,
    needs,
    harm,
    latest: file.latest,
    contents: file.contents,
    capacityMah: file.measured.capacityMah
  };
}
var VERDICT_OF = {
  note: "fit",
  watch: "watch",
  hold: "hold",
  retire: "retire-advised"
};
function verdictOf(life, findings) {
  if (life.state === "recycled") return "recycled";
  return isInService(life) ? VERDICT_OF[findings[0]?.severity ?? "note"] : "retired";
}
function mayFly(findings) {
  const doubtful = (finding3) => finding3.rule === "charge-implausible" && finding3.oddity === "too-fast" && !finding3.answered;
  if (findings.some((finding3) => RULE_FACTS[finding3.rule].beforeFlying === "measure" || doubtful(finding3)))
    return "measure-first";
  return findings.some(({ rule }) => RULE_FACTS[rule].beforeFlying === "look") ? "inspect-first" : "yes";
}
function watchOf({ history, now }, findings) {
  const serving = isInService(history.life);
  const watched = findings.flatMap(
    (finding3) => finding3.rule === "incident" && finding3.watchUntil !== null && speaksAgainstUse(finding3) ? [{ incidentId: finding3.incidentId, from: finding3.at, until: finding3.watchUntil }] : []
  );
  const open = watched.filter(
    ({ until }) => serving ? !history.inspections.some(({ at }) => at >= until) : now < until
  );
  return open.sort((a, b) => b.until - a.until)[0] ?? null;
}
function outSince(history, findings) {
  const times = timesOf(history);
  const starts = findings.filter(speaksAgainstUse).map(({ records }) => {
    const known2 = records.flatMap((id) => times.get(id) ?? []);
    return known2.length > 0 ? Math.max(...known2) : history.lastRecordAt ?? 0;
  });
  return starts.length > 0 ? Math.min(...starts) : null;
}
function worstFirst(a, b) {
  return SEVERITIES.indexOf(b.severity) - SEVERITIES.indexOf(a.severity);
}

// src/core/assess/timeline.ts
function timeline(history, rules, from) {
  const first = { from, assessment: assess(history, rules, from) };
  const later = [...new Set(changesAfter(history, rules, from, first.assessment))].sort((a, b) => a - b);
  return [first, ...later.map((at) => ({ from: at, assessment: assess(history, rules, at) }))];
}
var NEWS_DAYS3 = 120;
var YEAR_MS3 = 365.25 * DAY_MS;
function changesAfter(history, rules, from, { due, findings }) {
  const { pack, receivedAt, decisions, incidents } = history;
  const file = caseFile(history, rules, from);
  const service = pack.inServiceAt ?? receivedAt;
  const candidates = [
    ...due.map(({ dueAt }) => dueAt),
    // No task where a season's start covers it, and yet a sentence.
    inspectionDueAt(file),
    notKnownAt(file),
    receivedAt === null ? null : receivedAt + rules.returnDays * DAY_MS + 1,
    service === null ? null : service + rules.health.ageYears[pack.dutyClass] * YEAR_MS3,
    ...decisions.map(
      ({ what }) => what.to === "release" && typeof what.watch === "object" ? what.watch.until : null
    ),
    ...incidents.map((event) => watchEnds(event, rules)),
    ...findings.map((finding3) => {
      if (finding3.rule === "wears-faster") return finding3.lastAt + NEWS_DAYS3 * DAY_MS + 1;
      return finding3.rule === "shelf-loss" ? finding3.toAt + NEWS_DAYS3 * DAY_MS : null;
    }),
    ...findings.map(
      (finding3) => "at" in finding3 ? finding3.at + rules.incidents.overnightHours * HOUR_MS : null
    ),
    ...storageChanges(pack, file.measured.evidence, rules),
    ...fallings(file, from),
    ...flips(file, from)
  ];
  return candidates.filter((at) => at !== null && at > from);
}
function fallings(file, from) {
  const { history, rules, contents } = file;
  const { pack } = history;
  const { chemistry } = pack;
  if (!contents || !isLithium(chemistry)) return [];
  const at = (moment) => carriedTo2(file, moment).contents;
  const found = [];
  const charged = (moment) => chargedBy(at(moment), rules);
  const first = firstChange(charged, from, HORIZON_MS);
  found.push(first, firstChange(charged, first, HORIZON_MS));
  if (contents.basis === "read" || contents.basis === "used") {
    if (!pack.smart?.autoStorage) return found;
  }
  const { rechargeSoonMv } = rules.floors[chemistry];
  const low = (moment) => {
    const then = at(moment);
    return String(then !== null && Math.min(...contentsMv(chemistry, then)) < rechargeSoonMv);
  };
  found.push(firstChange(low, from, HORIZON_MS));
  return found;
}
function flips(file, from) {
  const { history, rules } = file;
  const { pack } = history;
  if (!isLithium(pack.chemistry) || pack.fieldPack) return [];
  const ahead = carriedTo2(file, from + HORIZON_MS);
  if (fullTimeBetween(history, ahead, rules, from - YEAR_MS3, from + HORIZON_MS).days === 0) return [];
  const limit = rules.health.fullDaysAYear;
  const said = (at) => String(fullDays(history, ahead, rules, at).days >= limit);
  const found = [];
  let before = said(from);
  for (let at = from + WEEK_MS; at <= from + HORIZON_MS; at += WEEK_MS) {
    const then = said(at);
    if (then !== before) found.push(firstChange(said, at - WEEK_MS, WEEK_MS));
    before = then;
  }
  return found;
}
function carriedTo2({ history, rules, rested }, moment) {
  return measure(history, rested, rules, moment).carried;
}
var WEEK_MS = 7 * DAY_MS;
var HORIZON_MS = 1100 * DAY_MS;
function firstChange(answerAt, from, span) {
  const before = answerAt(from);
  let [low, high] = [from, from + Math.ceil(span)];
  if (answerAt(high) === before) return high;
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (answerAt(middle) === before) low = middle;
    else high = middle;
  }
  return high;
}

// src/core/assess/benchFacts.ts
var USUAL_MILLIOHM_AH = {
  lipo: 20,
  lihv: 22,
  liion: 80,
  lifepo4: 45,
  nimh: 60
};
function benchFacts(history, {
  findings,
  verdict,
  mayFly: mayFly2,
  capacityMah
}, rules) {
  const { pack, flights, charges, inspections, resistances } = history;
  const found = (rule) => findings.some((finding3) => finding3.rule === rule);
  const flownAt = flights.at(-1)?.at ?? null;
  const emptiedAt = charges.findLast(({ mode }) => mode === "discharge")?.at ?? null;
  const lookedAt = inspections.at(-1)?.at ?? null;
  return {
    capacityMah,
    cellMilliohm: meanResistance(resistances).at(-1)?.value ?? USUAL_MILLIOHM_AH[pack.chemistry] / (pack.capacityMah / 1e3),
    freeFrom: Math.max(
      flownAt === null ? 0 : flownAt + rules.heat.coolMinutes * MINUTE_MS,
      emptiedAt === null ? 0 : emptiedAt + rules.restMinutes * MINUTE_MS
    ),
    looked: mayFly2 !== "inspect-first" && (flownAt === null || lookedAt !== null && lookedAt >= flownAt),
    gently: verdict === "watch" || pack.chargeC === null || found("long-rest"),
    balanceDue: found("balance-due"),
    underFloor: found("recharge-soon"),
    cycle: findings.some(({ rule, severity }) => rule === "charge-failed" && severity === "watch")
  };
}

// src/core/flying/landings.ts
var RESTED_WITHIN_MS = DAY_MS;
function landingsOf(history, capacityMah, flights = history.flights) {
  const { pack, charges, readings } = history;
  return flights.map((flight, i) => {
    const until = Math.min(
      flight.at + RESTED_WITHIN_MS,
      flights[i + 1]?.startedAt ?? Infinity,
      charges[countUpTo(charges, flight.at)]?.startedAt ?? Infinity
    );
    const after2 = readings.slice(countUpTo(readings, flight.at), countUpTo(readings, until));
    const rested = after2.find(({ condition }) => condition === "rested");
    const loaded = flight.landing?.condition === "loaded" ? flight.landing.volts : null;
    return {
      at: flight.at,
      recordId: flight.records.at(-1),
      pilot: flight.pilot,
      flownBy: flight.flownBy ?? null,
      craftId: flight.craftId ?? null,
      craft: flight.craft,
      setup: flight.craftSetup ?? 0,
      minutes: flight.minutes,
      usedMah: flight.usedMah,
      depthPercent: flight.usedMah === null ? null : flight.usedMah / capacityMah * 100,
      loadedMv: loaded === null ? null : decidingMv(loaded, pack.series),
      restedMv: rested === void 0 ? null : restedLike(loaded, rested, pack.series),
      ambientC: flight.ambientC
    };
  });
}
function decidingMv(volts, series) {
  return volts.of === "cells" ? Math.min(...volts.cellsMv) : Math.round(volts.packMv / series);
}
function restedLike(loaded, { volts }, series) {
  if (loaded?.of === "pack" && volts.of === "cells")
    return Math.round(volts.cellsMv.reduce((sum, mv) => sum + mv, 0) / volts.cellsMv.length);
  return decidingMv(volts, series);
}
var LANDINGS_KEPT = 24;
function flyingFacts(history, capacityMah, rules) {
  return {
    cycles: Math.round(cycles(history, rules.flight.maxDodPercent).count * 10) / 10,
    out: outOf(history, rules),
    owed: owedFor(history, rules),
    landings: landingsOf(history, capacityMah, history.flights.slice(-LANDINGS_KEPT))
  };
}
function outOf({ custody, flights }, { flight }) {
  if (!custody) return null;
  const { holderId, since, recordId, dueBackAt, craftId } = custody;
  const alsoWith = custody.alsoWith && { person: custody.alsoWith.person, since: custody.alsoWith.since };
  const flown = flights.filter(({ at }) => at > since).length;
  return {
    holder: holderId,
    since,
    recordId,
    dueBackAt,
    wantedBackAt: dueBackAt ?? since + flight.outHours * HOUR_MS,
    craftId,
    flights: flown,
    alsoWith
  };
}
function owedFor({ flights, charges, readings }, { heat, restMinutes }) {
  const flight = flights.at(-1);
  if (!flight?.pilot) return null;
  if ((charges.at(-1)?.at ?? -Infinity) > flight.at) return null;
  const since = readings.slice(countUpTo(readings, flight.at));
  if (since.some(({ condition }) => condition === "rested")) return null;
  return {
    by: flight.pilot,
    flownAt: flight.at,
    craftId: flight.craftId ?? null,
    coolAt: flight.at + heat.coolMinutes * MINUTE_MS,
    readFrom: flight.at + restMinutes * MINUTE_MS
  };
}

// src/server/platform/columns.ts
import { Type, p } from "@mikro-orm/postgresql";
function timestamp(at) {
  return at === null ? null : new Date(at).toISOString();
}

// src/server/ledger/projection.ts
function projectionOf(pack, records, headHash, { version, rules }) {
  const newest = records.reduce((latest, record) => Math.max(latest, record.recordedAt), 0);
  const history = fold(pack, records);
  const [first, ...later] = timeline(history, rules, newest);
  const { verdict, capacityMah } = first.assessment;
  const now = momentRow(history, rules, first.assessment);
  const { rested } = restedReadings(history, rules);
  const followed2 = outlooksKept(history, measure(history, rested, rules, newest), rules);
  const wear = { json: wearShown(history, followed2) };
  const told4 = {
    pack_id: pack.id,
    seq: records.length,
    head_hash: headHash,
    rules_version: version,
    ...steadyRow(history, rules, capacityMah, newest),
    ...now,
    ...futureOf(history, rules, later, now),
    wear
  };
  const columns = Object.keys(told4);
  const upsert = {
    sql: `insert into pack_state (${columns.join(", ")}) values (${columns.map(() => "?").join(", ")})
     on conflict (pack_id) do update set ${columns.map((column) => `${column} = excluded.${column}`).join(", ")}`,
    params: Object.values(told4).map((value) => isJson(value) ? JSON.stringify(value.json) : value)
  };
  return { verdict, upsert };
}
function isJson(value) {
  return typeof value === "object" && value !== null && "json" in value;
}
function futureOf(history, rules, later, now) {
  const segments = [];
  const texts = new Map(Object.entries(now).map(([column, value]) => [column, JSON.stringify(value)]));
  let before = JSON.stringify({});
  for (const { from, assessment } of later) {
    const changed = {};
    for (const [column, value] of Object.entries(momentRow(history, rules, assessment))) {
      if (value === now[column] || JSON.stringify(value) === texts.get(column)) continue;
      changed[column] = isJson(value) ? value.json : value;
    }
    const text = JSON.stringify(changed);
    if (text === before) continue;
    before = text;
    segments.push({ at: from, row: changed });
  }
  return { lapses: { json: segments }, changes_at: timestamp(segments[0]?.at ?? null) };
}
function steadyRow(history, rules, capacityMah, newest) {
  const { life } = history;
  const used = [history.charges.at(-1)?.at, history.flights.at(-1)?.at].filter((at) => at !== void 0);
  return {
    last_record_at: timestamp(history.lastRecordAt ?? newest),
    place_id: history.placeId,
    slot: history.slot,
    holder_id: history.holderId,
    received_at: timestamp(history.receivedAt),
    used_at: used.length > 0 ? timestamp(Math.max(...used)) : null,
    life: life.state,
    life_since: timestamp(life.since),
    consignment_id: life.consignmentId,
    leaves_charged: life.charged,
    flying: { json: flyingFacts(history, capacityMah, rules) },
    // Everything said of it was taken back: it is no pack of the register.
    empty: history.lastRecordAt === null
  };
}
function momentRow(history, rules, assessment) {
  const { storage, contents, steps, due, findings, verdict, mayFly: mayFly2, charged } = assessment;
  const { life, watch, outSince: outSince2, harm } = assessment;
  const running = storage.state === "high" || storage.state === "low" ? storage : null;
  const clock = isInService(life) ? running : null;
  const next = steps[0];
  const reading = readingStep(steps);
  return {
    verdict,
    may_fly: mayFly2,
    charged,
    findings: { json: findings },
    ...cellsNow(history, assessment),
    basis: contents?.basis ?? null,
    soc_percent: contents?.lowest.percent ?? null,
    storage: storage.state,
    since: "since" in storage ? timestamp(storage.since) : null,
    due_at: clock ? timestamp(clock.dueAt) : null,
    bled_at: clock ? timestamp(clock.bledAt) : null,
    allowance_hours: clock?.allowanceHours ?? null,
    next_do: next?.do ?? null,
    next_due_at: next ? timestamp(next.dueAt) : null,
    read_do: reading?.do ?? null,
    read_due_at: reading ? timestamp(reading.dueAt) : null,
    tasks: { json: due },
    task_due_at: timestamp(due[0]?.dueAt ?? null),
    season_due_at: timestamp(due.find((task2) => task2.do === "inspect-season")?.dueAt ?? null),
    out_since: timestamp(outSince2),
    watch_from: timestamp(watch?.from ?? null),
    watch_until: timestamp(watch?.until ?? null),
    watch_incident: watch?.incidentId ?? null,
    apart: life.apart || harm.length > 0,
    needs: { json: assessment.needs },
    bench: { json: benchFacts(history, assessment, rules) }
  };
}
function cellsNow({ pack }, { latest, contents }) {
  const read_at = latest ? timestamp(latest.at) : null;
  if (latest && (contents === null || contents.basis === "read" || !isLithium(pack.chemistry))) {
    const holds = contents !== null || !isLithium(pack.chemistry);
    return { cells_mv: holds ? { json: latest.cellsMv } : null, by_cell: latest.byCell, read_at };
  }
  const carried = contents && isLithium(pack.chemistry) ? contentsMv(pack.chemistry, contents) : null;
  const each = carried?.length === 1 ? Array.from({ length: pack.series }, () => carried[0]) : carried;
  const cells = each?.map((mv) => Math.round(mv / 10) * 10) ?? null;
  return { cells_mv: cells ? { json: cells } : null, by_cell: true, read_at };
}

// bench/lengthened.ts
import { v7 as newId } from "uuid";
var ONCE = /* @__PURE__ */ new Set([
  "received",
  "disposal",
  "recovery",
  "decision",
  "confirmation",
  "incident"
]);
function lengthened(records, count2) {
  const season = records.filter(({ kind }) => !ONCE.has(kind));
  const first = Math.min(...season.map(({ at: at2 }) => at2));
  const spanMs = Math.max(...season.map(({ recordedAt }) => recordedAt)) - first + DAY_MS;
  const seasons = Math.ceil(count2 / season.length);
  const told4 = [];
  for (let ago = seasons - 1; ago >= 0; ago -= 1) {
    const ids = new Map(season.map(({ id }) => [id, newId()]));
    const again = JSON.parse(
      JSON.stringify(season).replace(/[0-9a-f]{8}-[0-9a-f-]{27}/g, (id) => ids.get(id) ?? id)
    );
    told4.push(
      ...again.map((one) => ({
        ...one,
        at: one.at - ago * spanMs,
        recordedAt: one.recordedAt - ago * spanMs
      }))
    );
  }
  const newest = told4.slice(1 - count2);
  const kept = new Set(newest.map(({ id }) => id));
  const received = records.find(({ kind }) => kind === "received");
  const whole = newest.filter(({ supersedes }) => supersedes === null || kept.has(supersedes));
  const at = whole[0].at - DAY_MS;
  return [...received ? [{ ...received, id: newId(), at, recordedAt: at }] : [], ...whole].map(
    (one, i) => ({
      ...one,
      seq: i + 1
    })
  );
}

// scripts/tmp/core.ts
var demo = JSON.parse(readFileSync("/tmp/demo.json", "utf8"));
var model = demo.packs.filter((p2) => p2.pack.series === 4).sort((a, b) => b.records.length - a.records.length)[0];
var session = new Session();
session.connect();
var post = (m, p2 = {}) => new Promise((ok, no) => session.post(m, p2, (e, r) => e ? no(e) : ok(r)));
var inForce = { version: 1, rules: demo.rules };
for (const n of [100, 450, 1e3, 5e3]) {
  const records = lengthened(model.records, n);
  const work = () => projectionOf(model.pack, records.slice(), "x", inForce);
  for (let i = 0; i < 15; i++) work();
  if (process.argv[2] === String(n)) {
    await post("Profiler.enable");
    await post("Profiler.setSamplingInterval", { interval: 100 });
    await post("Profiler.start");
  }
  const t = performance.now();
  const R = 40;
  for (let i = 0; i < R; i++) work();
  const each = (performance.now() - t) / R;
  if (process.argv[2] === String(n)) {
    const { profile } = await post("Profiler.stop");
    writeFileSync(`/tmp/prof/c/${n}.cpuprofile`, JSON.stringify(profile));
  }
  const h = fold(model.pack, records);
  const at = records.at(-1).recordedAt;
  const time = (f) => {
    f();
    const t2 = performance.now();
    for (let i = 0; i < 30; i++) f();
    return ((performance.now() - t2) / 30).toFixed(2);
  };
  console.log(n, "projection", each.toFixed(2), "fold", time(() => fold(model.pack, records)), "assess", time(() => assess(fold(model.pack, records), demo.rules, at)), "timeline", time(() => timeline(fold(model.pack, records), demo.rules, at)), "segments", timeline(h, demo.rules, at).length);
}
