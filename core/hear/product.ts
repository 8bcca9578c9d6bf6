/**
 * A row of a matrix, from a place in it, times a vector. Four sums side by side: none waits for the one
 * before, which is what such loops spend their time on.
 */
export function rowProduct(matrix: Float64Array, row: number, vector: Float64Array): number {
  const count = vector.length
  let [a, b, c, d] = [0, 0, 0, 0]
  let j = 0
  for (; j + 3 < count; j += 4) {
    a += matrix[row + j]! * vector[j]!
    b += matrix[row + j + 1]! * vector[j + 1]!
    c += matrix[row + j + 2]! * vector[j + 2]!
    d += matrix[row + j + 3]! * vector[j + 3]!
  }
  for (; j < count; j++) a += matrix[row + j]! * vector[j]!
  return a + b + c + d
}
