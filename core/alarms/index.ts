export {
  type Alarm,
  type AlarmCode,
  type CylinderFacts,
  dueAlarms,
  type Judged,
  judgePull,
  meteringAlarms,
  notYet,
  type Silent,
  silentAlarms,
  stationAlarms,
} from './wanted'
