export { addEntries, openTasks, verifyIncidents, watches } from './service';
