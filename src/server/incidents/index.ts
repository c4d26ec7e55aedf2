export { addEntries, openTasks, watches } from './service';
