// Where two pictures that lie over each other differ least.
#pragma once

#include <vector>

namespace oa {

/// For each of `lines` lines where within `band` places the cheapest way from the first line to the last crosses it; `cost` holds the
/// band of one line after the other. Neighbours are one apart at most; a closed way ends where it began. (A. A. Efros and W. T. Freeman,
/// "Image quilting for texture synthesis and transfer", SIGGRAPH 2001.)
std::vector<int> leastCut(const std::vector<float>& cost, int band, int lines, bool closed);

/// Keeps the cut away from the band's ends, where there would be no room to go over within `soft` shares of the band: half of that
/// on either side stays free, and a place at least in the middle.
void keepRoom(std::vector<float>& cost, int band, int lines, double soft);

/// How much of what ends at the cut is there at place `x` of a band: 1 before it, 0 behind it, going over within `soft` shares of the
/// band and never beyond its ends. All in pixels; [0, 1].
double cutShare(double x, double cut, double band, double soft);
/// The same of a cross-fade over the whole band.
double fadeShare(double x, double band);

/// The difference of two pixels: the sum of the squares over four channels.
float pixelDifference(const float* a, const float* b);

}  // namespace oa
