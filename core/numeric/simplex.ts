import { dot, nth } from "./checked.ts";

/** A column of a linear programme: what it costs and what it adds to each row. */
export interface Column {
  cost: number;
  rows: ArrayLike<number>;
}

const EPSILON = 1e-9;
const MOST_PIVOTS = 400;

/**
 * Least cost of columns taken in shares of 0 or more so that every row comes to its right side exactly: the revised simplex method with a
 * dense inverse (G. B. Dantzig; any text on linear programming). Rows are few here, tens at most; columns may be added between solutions.
 */
export class Simplex {
  private readonly columns: Column[] = [];
  private readonly basis: number[];
  private inverse: number[][];
  private shares: number[];

  /**
   * @param right right side of each row, 0 or more
   * @param start one column per row that adds 1 to it and nothing to the others: the first basis
   */
  constructor(right: readonly number[], start: readonly Column[]) {
    this.columns.push(...start);
    this.basis = right.map((_, row) => row);
    this.inverse = right.map((_, row) => right.map((__, column) => Number(row === column)));
    this.shares = [...right];
  }

  add(column: Column): number {
    return this.columns.push(column) - 1;
  }

  /** Goes on to the least cost over the columns there are. @returns worth of one unit of each row's right side */
  solve(): number[] {
    for (let pivot = 0; pivot < MOST_PIVOTS; pivot++) {
      const worth = this.worth();
      let entering = -1;
      let least = -EPSILON;
      for (const [index, column] of this.columns.entries()) {
        const reduced = column.cost - dot(worth, column.rows);
        // After many pivots the first column that pays is taken, so that no circle can be gone round for ever.
        if (reduced >= least || (pivot > MOST_PIVOTS / 2 && entering >= 0)) continue;
        least = reduced;
        entering = index;
      }
      if (entering < 0 || !this.enter(entering)) return worth;
    }
    return this.worth();
  }

  /** Columns that are in use and their shares. */
  used(): Array<{ column: number; share: number }> {
    return this.basis.flatMap((column, row) => {
      const share = nth(this.shares, row);
      return share > EPSILON ? [{ column, share }] : [];
    });
  }

  private worth(): number[] {
    return this.basis.map((_, row) =>
      this.basis.reduce((sum, column, k) => sum + (this.columns[column]?.cost ?? 0) * (this.inverse[k]?.[row] ?? 0), 0),
    );
  }

  private enter(entering: number): boolean {
    const { rows } = this.columns[entering] ?? { rows: [] };
    const change = this.inverse.map((line) => dot(line, rows));
    let leaving = -1;
    let most = Number.POSITIVE_INFINITY;
    change.forEach((by, row) => {
      if (by <= EPSILON) return;
      const share = nth(this.shares, row) / by;
      if (share > most - EPSILON && !(share < most + EPSILON && nth(this.basis, row) < nth(this.basis, leaving)))
        return;
      most = share;
      leaving = row;
    });
    const pivot = change[leaving];
    const line = this.inverse[leaving];
    if (pivot === undefined || !line) return false;
    const scaled = line.map((value) => value / pivot);
    const share = Math.max(0, most);
    this.inverse = this.inverse.map((own, row) =>
      row === leaving ? scaled : own.map((value, k) => value - nth(change, row) * nth(scaled, k)),
    );
    this.shares = this.shares.map((value, row) =>
      row === leaving ? share : Math.max(0, value - nth(change, row) * share),
    );
    this.basis[leaving] = entering;
    return true;
  }
}
