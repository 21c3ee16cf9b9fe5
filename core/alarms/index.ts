export {
  type Alarm,
  type AlarmCode,
  type CylinderFacts,
  dueAlarms,
  type Judged,
  judgePull,
  notYet,
  type Silent,
  silentAlarms,
  stationAlarms,
} from './wanted'
