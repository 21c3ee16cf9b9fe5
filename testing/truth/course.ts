// A course of work chosen by lot: the hands do what is usual, in an order that is not always.
import { dice } from '../../sim/dice'
import { aim, charge } from './charge'
import { pump } from './evacuate'
import { aHand, beginJob, type Hand } from './hand'
import { nitrogen, openUp, search } from './open-work'
import { foundGone, pull, sayEnd } from './recover'
import { retrofit } from './retrofit'
import { letBack, pumpDown } from './shut-in'
import { runStation } from './station'
import { inSystemKg, later, leakAway, newWorld, openValves, pressures, reachableKg } from './world'

/** How many acts a course has, at the most. */
const ACTS = 12

/**
 * One course, the same for the same seed.
 * @param seen after each entry
 * @param ended when a job's tape is left for another
 */
export function playCourse(seed: number, seen: (hand: Hand) => void, ended: (hand: Hand) => void): void {
  const lot = dice(seed)
  const world = newWorld(lot)
  const hand = aHand(world, lot, seen)
  const plateKg = world.parameters.system.chargeKg
  if (lot.even() < 0.3) leakAway(world, lot.even() < 0.4 ? 1 : lot.even(), 0)
  if (lot.even() < 0.25) world.parameters.system.holeM = 2e-4
  beginJob(hand)
  if (lot.even() < 0.6) {
    if (world.trade === 'vehicle' && lot.even() < 0.7) runStation(hand, missing(hand, true))
    else usualJob(hand)
  }
  for (let i = 0; i < ACTS; i++) {
    later(world, lot.even() * 30)
    const inIt = reachableKg(world)
    const empty = inIt < 0.08 * plateKg + 0.05
    const deep = pressures(world).totalPa < 2_000
    const usual: [weight: number, act: () => void][] = empty
      ? [
          [deep ? 0.5 : 3, () => pump(hand)],
          [deep ? 0.3 : 1.5, () => nitrogen(hand)],
          [0.6, () => openUp(hand)],
          [1, () => search(hand)],
          [world.shutIn ? 0 : 0.7, () => foundGone(hand)],
          [0.7, () => aim(hand)],
          [world.shutIn ? 0 : deep ? 6 : 0.3, () => charge(hand, missing(hand))],
          [world.shutIn ? 0 : 0.3, () => (pull(hand, 'A', 1), sayEnd(hand))],
          [world.shutIn ? 0 : 0.4, () => retrofit(hand)],
          [world.shutIn ? 3 : 0, () => letBack(hand)],
          [world.shutIn || world.trade !== 'vehicle' ? 0 : 2, () => runStation(hand, missing(hand))],
          [0.5, () => anotherJob(hand, ended)],
        ]
      : [
          [2.5, () => (pull(hand, lot.even() < 0.8 ? 'A' : 'B', 1), sayEnd(hand))],
          [1, () => (pull(hand, 'A', 0.1 + 0.7 * lot.even()), sayEnd(hand))],
          [0.8, () => search(hand)],
          [0.7, () => aim(hand)],
          [1.2, () => charge(hand, missing(hand))],
          [0.5, () => charge(hand, 0.05 + 0.5 * lot.even())],
          [0.7, () => leaks(hand)],
          [world.trade === 'vehicle' ? 0 : 0.3, () => pumpDown(hand)],
          [world.trade === 'vehicle' ? 2 : 0, () => runStation(hand, missing(hand, true))],
          [1, () => anotherJob(hand, ended)],
        ]
    chosen(usual, lot.even())()
  }
  ended(hand)
}

/** As it is mostly done: out, opened or searched, tested, evacuated, held, filled. */
function usualJob(hand: Hand): void {
  const { dice: lot, world } = hand
  if (inSystemKg(world) > 0.1) {
    pull(hand, lot.even() < 0.7 ? 'A' : 'B', 1)
    sayEnd(hand)
  } else foundGone(hand)
  if (lot.even() < 0.5) openUp(hand)
  search(hand)
  if (lot.even() < 0.5) nitrogen(hand)
  pump(hand)
  aim(hand)
  charge(hand, missing(hand))
}

function chosen(acts: [weight: number, act: () => void][], lot: number): () => void {
  let left = lot * acts.reduce((sum, [weight]) => sum + weight, 0)
  return (acts.find(([weight]) => (left -= weight) < 0) ?? acts.at(-1)!)[1]
}

/** Up to the plate, or a little past it, or not quite. @param emptied once what is in it is out */
function missing({ world, dice: lot }: Hand, emptied = false): number {
  const full = world.parameters.system.chargeKg - (emptied ? 0 : inSystemKg(world))
  const off = lot.even()
  const aimed = off < 0.6 ? full : off < 0.8 ? full * 0.6 : full * 1.25
  return Math.max(0.05, aimed)
}

/** It leaks while nobody looks: a part of it, or all. */
function leaks(hand: Hand): void {
  const { world, dice: lot } = hand
  if (lot.even() < 0.5) world.parameters.system.holeM = 2e-4
  leakAway(world, lot.even() < 0.4 ? 1 : 0.6 * lot.even(), 0)
}

/** Closed, or left; weeks later somebody comes to the same machine. */
function anotherJob(hand: Hand, ended: (hand: Hand) => void): void {
  const { world, dice: lot } = hand
  if (lot.even() < 0.6) hand.write('job-closed', {})
  ended(hand)
  openValves(world)
  later(world, 1 + lot.even() * 40_000)
  if (lot.even() < 0.4) leaks(hand)
  beginJob(hand)
}
