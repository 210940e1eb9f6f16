/**
 * Tables that people keep: delimited text of any dialect and encoding, as rows of cells.
 *
 * Limits: cells stay text; a title above the header is passed over.
 */
export { celsiusOf, dayCell, looksFahrenheit, numberCell } from "./cells.ts";
export { decodeText } from "./decode.ts";
export { readTable, type Table } from "./read-table.ts";
