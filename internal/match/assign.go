package match

import (
	"math"
	"slices"
)

// assign chooses for every row one of its options, or none, so that no home is
// used twice and the total cost is least; leaving a row without an option
// costs costGiveUp. It gives the index of the chosen option for each row, -1
// for none. Rows that share no home are settled apart from each other.
func assign(rows [][]option) []int {
	chosen := make([]int, len(rows))
	for _, group := range groups(rows) {
		if len(group) > mostExact {
			assignGreedily(rows, group, chosen)
		} else {
			assignExactly(rows, group, chosen)
		}
	}
	return chosen
}

// mostExact is the largest group that is settled by the exact method, whose
// cost grows with the cube of the group.
const mostExact = 100

// groups gathers the rows that compete for homes.
func groups(rows [][]option) [][]int {
	leader := make([]int, len(rows))
	for i := range leader {
		leader[i] = i
	}
	var find func(int) int
	find = func(i int) int {
		if leader[i] != i {
			leader[i] = find(leader[i])
		}
		return leader[i]
	}
	first := map[string]int{}
	for i, row := range rows {
		for _, o := range row {
			if j, seen := first[o.home]; seen {
				leader[find(i)] = find(j)
			} else {
				first[o.home] = i
			}
		}
	}
	at := map[int]int{}
	var all [][]int
	for i := range rows {
		l := find(i)
		k, seen := at[l]
		if !seen {
			k = len(all)
			at[l] = k
			all = append(all, nil)
		}
		all[k] = append(all[k], i)
	}
	return all
}

// assignGreedily takes the cheapest options first.
func assignGreedily(rows [][]option, group []int, chosen []int) {
	type pick struct{ row, option int }
	var picks []pick
	for _, i := range group {
		chosen[i] = -1
		for k := range rows[i] {
			picks = append(picks, pick{i, k})
		}
	}
	slices.SortStableFunc(picks, func(a, b pick) int {
		if d := rows[a.row][a.option].cost - rows[b.row][b.option].cost; d < 0 {
			return -1
		} else if d > 0 {
			return 1
		}
		return 0
	})
	used := map[string]bool{}
	for _, p := range picks {
		if home := rows[p.row][p.option].home; chosen[p.row] < 0 && !used[home] {
			chosen[p.row], used[home] = p.option, true
		}
	}
}

// assignExactly solves the group with the Hungarian method, in the form with
// potentials and shortest augmenting paths (Jonker and Volgenant, 1987). Each
// row has a column of its own that stands for giving up.
func assignExactly(rows [][]option, group []int, chosen []int) {
	columns := map[string]int{}
	for _, i := range group {
		for _, o := range rows[i] {
			if _, seen := columns[o.home]; !seen {
				columns[o.home] = len(columns)
			}
		}
	}
	n, m := len(group), len(columns)+len(group)
	cost := make([][]float64, n)
	best := make([][]int, n)
	for r, i := range group {
		cost[r], best[r] = make([]float64, m), make([]int, m)
		for c := range cost[r] {
			cost[r][c], best[r][c] = 1000, -1
		}
		cost[r][len(columns)+r] = costGiveUp
		for k, o := range rows[i] {
			if c := columns[o.home]; o.cost < cost[r][c] {
				cost[r][c], best[r][c] = o.cost, k
			}
		}
	}
	for r, c := range hungarian(cost, m) {
		chosen[group[r]] = best[r][c]
	}
}

// hungarian gives for each row of the cost matrix, n rows by m >= n columns,
// the column of an assignment of least total cost.
func hungarian(cost [][]float64, m int) []int {
	n := len(cost)
	u, v := make([]float64, n+1), make([]float64, m+1)
	rowOf, way := make([]int, m+1), make([]int, m+1)
	for i := 1; i <= n; i++ {
		rowOf[0] = i
		j0 := 0
		least, used := make([]float64, m+1), make([]bool, m+1)
		for j := range least {
			least[j] = math.Inf(1)
		}
		for rowOf[j0] != 0 {
			used[j0] = true
			i0, delta, j1 := rowOf[j0], math.Inf(1), 0
			for j := 1; j <= m; j++ {
				if used[j] {
					continue
				}
				if d := cost[i0-1][j-1] - u[i0] - v[j]; d < least[j] {
					least[j], way[j] = d, j0
				}
				if least[j] < delta {
					delta, j1 = least[j], j
				}
			}
			for j := range used {
				if used[j] {
					u[rowOf[j]] += delta
					v[j] -= delta
				} else {
					least[j] -= delta
				}
			}
			j0 = j1
		}
		for j0 != 0 {
			rowOf[j0] = rowOf[way[j0]]
			j0 = way[j0]
		}
	}
	columns := make([]int, n)
	for j := 1; j <= m; j++ {
		if rowOf[j] > 0 {
			columns[rowOf[j]-1] = j - 1
		}
	}
	return columns
}
