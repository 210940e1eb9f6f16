/**
 * Corrects readings taken by hand.
 *
 * Model: Stefan–Boltzmann for infrared thermometers. Units: °C. Limits: the surface fills the instrument's spot; the surroundings have
 * one temperature.
 */
export { correctInfrared, EMISSIVITIES } from "./infrared.ts";
