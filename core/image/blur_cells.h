// What a blur does to whole rows: sums of rows, means and thinned rows, and cells enlarged to pixels.
#pragma once

namespace oa {

/// out[i] = sum of taps[k] * rows[k][i], i in [0, n): several rows, or one against itself shifted. No more is written.
void weightedRows(const float* const* rows, const float* taps, int count, int n, float* out);

/// The same to four rows at once, to the bit, each of which begins one of `rows` further down: there are `count` and three of these.
inline constexpr int kRowsAtOnce = 4;
inline constexpr int kMostWeighted = 64;  ///< rows of one
void weightedRowsFour(const float* const* rows, const float* taps, int count, int n, float* const* out);

/// Means of `f` neighbouring pixels of one row, `cells` of them.
void reduceCells(const float* in, int cells, int f, int channels, float* out);

/// out[j] = sum of taps[i] * in[step * j + i], pixel by pixel, j in [0, n).
void thinCells(const float* in, const float* taps, int count, int step, int n, int channels, float* out);

/// Cells to `f` pixels of each, an even number, by the cubic B-spline: weights[k][place] are those of the kth of four cells, repeated for
/// each channel. `in` starts two cells before the first; writes cells * f pixels.
void enlargeCells(const float* in, const float* const* weights, int cells, int f, int channels, float* out);

}  // namespace oa
