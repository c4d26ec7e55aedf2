import type { RuleId } from '../assess';

export interface RuleText {
  readonly title: string;
  /** What the rule says, as a sentence without figures: those come from the house rules. */
  readonly says: string;
  /** Why, and where practitioners differ, both views. */
  readonly why: string;
}

/** The words behind each rule a finding can come from. */
export const RULE_TEXTS: Readonly<Record<RuleId, RuleText>> = {
  unmeasured: {
    title: 'Unknown is not compliant',
    says: 'A lithium pack without a rested reading must be measured before anything else.',
    why: 'A pack nobody has measured may be full, flat or damaged; each asks for something else, and two of them are dangerous. What was in its band months ago may have leaked out of it.',
  },
  'not-known': {
    title: 'Nobody knows any more',
    says: 'A pack of which nothing was measured for long is not called fit: it is measured before it is charged or flown.',
    why: 'Most packs that fail after a winter were sound when they were last looked at. No record is no evidence of health; strict clubs re-measure sooner, none trusts a season of silence.',
  },
  'self-storing': {
    title: 'Stores itself',
    says: 'A smart pack set to store itself within the allowance brings itself to storage; it is read when it should be there.',
    why: 'Such a pack has a clock of its own and does what a hand would do. Whether it did is known only by the meter.',
  },
  'smart-settings': {
    title: 'How a smart pack is set',
    says: 'A pack is named whose own storage is off, waits longer than the allowance or stops outside the band, and one that its memory has charged faster than at home or above the top.',
    why: 'Whoever handles it relies on a bleed that does not come. Some clubs set it long for a week of flying days; then somebody puts the pack to storage by hand.',
  },
  'memory-unread': {
    title: 'Set, and not read back',
    says: 'What was written into a pack’s memory counts once it was read back, and after an update of its program every setting is read again.',
    why: 'A write that failed looks like one that worked, and an update may put every setting back to how the pack came. Until the reading nothing is relied on that is better than before.',
  },
  'own-faults': {
    title: 'Its own count of faults rose',
    says: 'Where a pack’s own count of over-charges, over-discharges or hot hours rose between two readings, it is looked over; the rise belongs to whoever had it then.',
    why: 'The pack saw what no meter did. Who had it is told without blame: the cut-off, the timer or the charger’s setting is put right there.',
  },
  'field-charged': {
    title: 'Fly or drain today',
    says: 'A pack charged faster than at home is flown the same day or put to storage.',
    why: 'A fast charge costs life, and pays only when the pack is flown. One practice keeps its rate low everywhere; the other charges fast in the field and never lets such a charge lie.',
  },
  'balance-due': {
    title: 'Balance due',
    says: 'Charges since the cells were last balanced are counted against the rules’ interval.',
    why: 'One practice balances at every charge, the other every few while the pack keeps itself in tolerance, with the balance lead in so that the charger watches every cell. Needing a balance every time is a symptom.',
  },
  'charge-habits': {
    title: 'How it is charged',
    says: 'Charges above the label’s, the field’s or a gentle rate, above the rules’ top, too cold or too soon after a warm landing are named and counted.',
    why: 'Rules are kept by being seen. What was done is evidence and changes no verdict by itself; what it did to the pack is judged by its own rules.',
  },
  'two-hands': {
    title: 'Taken out twice',
    says: 'A pack that was taken out while somebody else had it, and not from them, is named until one of the two answers or it comes back.',
    why: 'Two phones without a network cannot know of each other. Both entries are evidence, and only the two people can say which of them has it.',
  },
  'deep-use': {
    title: 'How deep it was flown',
    says: 'The charge each flight took is held against measured capacity; what went into the reserve is told in points.',
    why: 'The last fifth costs the most life and leaves nothing for a headwind. Strict clubs land at 40 %; others at 20 %.',
  },
  'cold-use': {
    title: 'Flown in the cold',
    says: 'A flight in the cold is named: the next one wants a warm pack, a shorter timer and higher landing volts.',
    why: 'A cold pack gives less and sags more, and looks older than it is. Its flight times are not compared with warm ones.',
  },
  cooling: {
    title: 'Warm after a use',
    says: 'A pack found warm right after its use is let cool and felt again; still warm an hour later, or too hot to touch, it is held.',
    why: 'A sound pack lands warm. One that stays warm, or warms by itself, is discharging into itself.',
  },
  'shelf-loss': {
    title: 'Loses charge on the shelf',
    says: 'A cell that loses far more on the shelf than its chemistry leaks gets a caution.',
    why: 'Charge that goes nowhere turns into heat inside. A pack with electronics of its own may be feeding those, which is why it is a caution and not a hold.',
  },
  'wears-faster': {
    title: 'Wears faster',
    says: 'A change of pace, or a step, in capacity or resistance is told as soon as several measurements agree on it.',
    why: 'Ageing is not a straight line. A knee, or a step after an incident, is how packs fail; a forecast through what came before would promise years.',
  },
  swollen: {
    title: 'Swelling',
    says: 'A swollen pack is out of use at once; one measurably thicker than at first gets a caution, and a hold from a certain growth.',
    why: 'Gas in a pouch is the trace of decomposition and does not go back. A warm pack grows a little and shrinks again, so a small growth is measured again cold before anything is concluded.',
  },
  incident: {
    title: 'After an incident',
    says: 'A pack named in a dangerous incident is on hold at once, put in quarantine where it was shocked, inspected when that is over, and then decided.',
    why: 'A knocked cell can run away half an hour later, a wrongly charged one hours later. The strict practice retires every crashed pack; the other inspects it and keeps it on caution. One out of shape, burnt or leaking is retired by both.',
  },
  'held-by-hand': {
    title: 'Held by a person',
    says: 'Whoever looks after the packs may take one out of use and say why.',
    why: 'A hand or a nose notices what no rule knows. The hold ends like any other: by a look, a reading, a name and a reason.',
  },
  'inspection-asked': {
    title: 'An inspection was asked for',
    says: 'A pack whose sibling failed is inspected before its next use.',
    why: 'Packs of one type and delivery were made and treated alike; what one shows the others may hide.',
  },
  recovery: {
    title: 'Supervised recovery',
    says: 'An over-discharged pack is brought up only by the custodian, at low current, in its own chemistry, never left, and stopped at any warmth or when its time is over.',
    why: 'One practice never does this: copper that went into solution can short a cell months later. The other does where the cause is known and harmless, rests the pack a day, reads it, and keeps it on caution for life.',
  },
  'second-name': {
    title: 'Second name',
    says: 'Where the rules ask for two names, a retirement stands once another person has put theirs under it.',
    why: 'Money and evidence both go with a retired pack. Strict clubs want two people to have looked; others trust one.',
  },
  'inspection-failed': {
    title: 'A failed inspection',
    says: 'Each item of a checklist says what its failure means; a bare conductor, a puncture, a leak or an odour always takes the pack out of use.',
    why: 'What a hand finds no meter shows. A caution ends when the same item is found in order again; a hold ends only by a person’s decision.',
  },
  'not-as-delivered': {
    title: 'As delivered',
    says: 'A new pack far from storage voltage or out of balance goes back to the seller.',
    why: 'New packs are shipped level and near storage volts. One that is not has stood badly or leaks, and the seller owes a sound one.',
  },
  'long-rest': {
    title: 'Out of storage',
    says: 'A pack that lay unused for a season is inspected in order before it is charged and flown.',
    why: 'Corrosion, swelling and a drifting cell come while nobody looks. The first charge after a long rest is gentle and balanced for the same reason.',
  },
  'baseline-missing': {
    title: 'Baseline',
    says: 'A new pack’s first three resistances, its thickness and its mass are measured soon after receipt.',
    why: 'Ageing is told against the pack’s own beginning; once it has worked a while, the beginning cannot be measured any more.',
  },
  'inspection-due': {
    title: 'Scheduled inspection',
    says: 'Every pack is inspected by the calendar.',
    why: 'Strict clubs look monthly, others every two or three months: hidden damage is found by looking, not by waiting for it.',
  },
  'not-rested': {
    title: 'Only rested volts decide',
    says: 'A reading under load, or before the rest has passed, decides neither storage nor spread nor charge.',
    why: 'Under load a cell sags and comes back: a pack that shows 3.5 V in the air rests near 3.7 a few minutes later.',
  },
  'damage-floor': {
    title: 'Damage floor',
    says: 'A rested cell below the damage floor takes the pack out of use at once.',
    why: 'Below it the cell is being harmed whatever is done next, and a harmed cell can fail on a later charge. The lowest cell decides, never the mean.',
  },
  'over-discharged': {
    title: 'What becomes of an over-discharged pack',
    says: 'By the house rules such a pack is retired, or may be recovered by a custodian under supervision.',
    why: 'One practice retires every such pack, because the harm cannot be seen and has started fires. The other recovers one whose cause is known and harmless, slowly, watched, in its own chemistry, and keeps it on caution for life.',
  },
  'over-discharge-event': {
    title: 'Over-discharge event',
    says: 'A cell resting under the over-discharge line is an event in the record: charge to storage at once and read again.',
    why: 'A single deep discharge shortens life without ending it. What shows harm is the reading afterwards, and how often it happens.',
  },
  'recharge-soon': {
    title: 'Recharge-soon floor',
    says: 'A pack resting under this floor is brought up to storage now, not by its clock.',
    why: 'What is left drains by itself, and the nearly flat part of the curve falls steeply: days can make the difference between low and damaged.',
  },
  overfull: {
    title: 'Never above full',
    says: 'A cell above its chemistry’s full voltage, resting, settling or at a charge’s end, is taken down; well above it, the pack is held.',
    why: 'The worst slip at a charger is a high-voltage or other-chemistry mode on a standard pack. Plating begins above full, and such a pack can burn later.',
  },
  'storage-high': {
    title: 'Storage band, high side',
    says: 'A pack resting above its band is put to storage within the high allowance.',
    why: 'Storing full harms most, and time at full adds up. Practices allow one day, two days, a week or two; they trade life for readiness.',
  },
  'storage-low': {
    title: 'Storage band, low side',
    says: 'A pack resting below its band is brought up within the low allowance.',
    why: 'Storing empty harms next to storing full, and a low pack drifts toward the floor where harm is certain, so its allowance is shorter.',
  },
  spread: {
    title: 'Spread between cells',
    says: 'Cells further apart than the tolerance are balanced; much further apart, the pack gets a caution.',
    why: 'A cell that drifts reaches empty first in the air and full first on the charger. One practice balances on every charge, the other only every few while the pack keeps itself in tolerance; needing it every time is a symptom.',
  },
  'storage-pending': {
    title: 'Pending until read',
    says: 'A storage job, or a smart pack’s own bleed, counts as pending until a rested reading confirms it.',
    why: 'Chargers stop on loaded volts, which rebound or sink once the load is off; and a bleed that was switched off is found by the meter only.',
  },
  'written-late': {
    title: 'Written when it was overdue',
    says: 'A record of an earlier moment that ends a storage clock which had run out meanwhile is told, until a reading written in good time confirms it.',
    why: 'Mostly somebody did the work and forgot to write. But such a record also makes an overdue pack look as if it had never been, so the meter has the last word.',
  },
  'weak-cell': {
    title: 'Weak cell after use',
    says: 'A cell that rests well below its siblings after a use gets a caution; far below, the pack is to be retired.',
    why: 'A cell that holds less empties first, and the pack’s mean hides it until it is driven to ruin in the air.',
  },
  'cell-drift': {
    title: 'One cell falls behind',
    says: 'A cell that comes back from each use further and further below its siblings, told in charge, is watched.',
    why: 'A cell wears away before its siblings by a few percent at a time; each reading by itself is within tolerance, and a balancing charger hides the rest.',
  },
  'weakest-again': {
    title: 'The same cell weakest again',
    says: 'A cell that comes to the charger lowest and out of tolerance again and again gets a caution, and is retired when it goes on.',
    why: 'Any cell drifts once. The same one each time is losing charge by itself; balancing hides that and does not mend it.',
  },
  'resistance-growth': {
    title: 'Resistance against its own baseline',
    says: 'Each cell’s resistance at 25 °C is held against the pack’s first three readings.',
    why: 'Resistance is the surest sign of wear: it takes the punch first, then the flight time. Instruments differ, so a pack is compared with itself.',
  },
  'resistance-siblings': {
    title: 'Resistance against its siblings',
    says: 'One cell’s resistance is held against the median of the others on the same day.',
    why: 'Cold, leads and instrument move all cells alike; a cell that stands alone has a fault of its own.',
  },
  'resistance-jump': {
    title: 'Resistance jumped',
    says: 'A rise between two readings beyond the limit asks for a third before it is believed.',
    why: 'A dirty pin adds milliohms that no cell has.',
  },
  capacity: {
    title: 'Capacity against the label',
    says: 'Capacity as last measured is held against the label’s: less brings a caution, much less retirement.',
    why: 'A pack that holds less flies shorter than its timer says. Some clubs fly such packs on trainers; none plans a mission on them. One measurement condemns nothing: three must agree before a pack is to go.',
  },
  'run-time': {
    title: 'Flight time for the same charge',
    says: 'Minutes for each ampere-hour on the same craft are held against the pack’s first flights on it.',
    why: 'Voltage that sags turns charge into heat. The craft must be the same, warm, and unchanged, or the comparison lies.',
  },
  'long-full': {
    title: 'Too long full',
    says: 'The days a pack spends above its band within a year are added up, weighed by how full and how warm; many of them bring a caution.',
    why: 'Storing full harms most, and it adds up: ten separate days harm as ten in a row do. Practices differ in how many days they allow at a time, not in this.',
  },
  cycles: {
    title: 'Full cycles',
    says: 'Charge throughput divided by capacity is held against what the chemistry is good for; reaching it asks for a review.',
    why: 'Cycles wear a cell even when nothing shows yet. One practice retires by count, the other by measurement; the rules ask for a look.',
  },
  age: {
    title: 'Age in service',
    says: 'Years in service are held against the pack’s duty; reaching it asks for a review.',
    why: 'Cells age on the shelf too. Hard duty ages faster, gentle duty slower.',
  },
  'hot-use': {
    title: 'Temperature in use',
    says: 'A pack that gets too hot in use gets a caution; beyond the hold line it is held for inspection.',
    why: 'Heat says that gear, propeller, load or pack is wrong, and repeated hot landings shorten life.',
  },
  'hot-charge': {
    title: 'Hot while charging',
    says: 'A lithium pack that gets hot, or warm to the hand, on the charger is held; a nickel pack too hot to touch is stopped.',
    why: 'A sound lithium pack is barely warm while it charges. Heat means something inside takes the charge that should not.',
  },
  'wrong-setting': {
    title: 'Charger set for another pack',
    says: 'A charge, discharge or storage job in a mode, cell count or top voltage that drives cells above full or runs them flat holds the pack.',
    why: 'Chargers remember the last pack. A high-voltage or nickel setting on a standard pack is the worst slip there is; such packs have burnt hours later.',
  },
  'charge-failed': {
    title: 'Balance charge that failed',
    says: 'After a failed balance charge: discharge, balance again; after the third in a row the pack is to be retired.',
    why: 'A cell that will not come up with the others leaks what it is given.',
  },
  'charge-implausible': {
    title: 'A charge that cannot be right',
    says: 'A charge that ends far too soon, runs far too long, or puts in more than there was room for is named; far more holds the pack.',
    why: 'Wrong setting, an imbalance that will not close, or a dying pack: each wants hands before the next charge. A later ordinary charge does not wash it away, and its own figures count for nothing in the trends.',
  },
  'landed-low': {
    title: 'Landed low',
    says: 'A landing under the rules’ loaded volts is named, and how often lately.',
    why: 'Practices land at 3.5, 3.6 or 3.7 V, or at storage so that nothing needs doing afterwards; all agree that the last tenth costs the most life.',
  },
  unlogged: {
    title: 'Records that do not fit together',
    says: 'Two readings that differ by more than lying about explains, with nothing logged between, are named.',
    why: 'A judgement is as good as its records. What is missing is said rather than guessed.',
  },
  'nimh-top-up': {
    title: 'Nickel packs are topped up',
    says: 'A NiMH pack is charged at the rules’ interval.',
    why: 'It has no storage voltage and drains by itself; left flat for long it loses cells.',
  },
  idle: {
    title: 'Idle packs',
    says: 'A lithium pack that lies unused is read, or cycled, at the rules’ interval.',
    why: 'One practice cycles every pack monthly to keep it lively; the other leaves a stored lithium pack alone and only reads it, because each cycle costs life.',
  },
};

/** What a rule is called that a record names; its id, should the rule be no longer known. */
export function ruleTitle(rule: string): string {
  return (RULE_TEXTS as Readonly<Record<string, RuleText>>)[rule]?.title ?? rule;
}
