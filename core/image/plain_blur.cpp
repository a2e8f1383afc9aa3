#include "image/plain_blur.h"

#include <cmath>
#include <map>
#include <utility>
#include <vector>

#include "base/numbers.h"

namespace oa {
namespace {

constexpr int kPiece = 64;

struct Kernel {
  int reach;
  std::vector<double> weights;
  explicit Kernel(double sigma) : reach(sigma < 0.05 ? 0 : static_cast<int>(std::ceil(sigma * 3.7))) {
    double sum = 0;
    for (int k = -reach; k <= reach; ++k) sum += weights.emplace_back(reach == 0 ? 1 : std::exp(-0.5 * k * k / (sigma * sigma)));
    for (double& w : weights) w /= sum;
  }
};

std::vector<PlainPixel> pieceAt(const PlainPicture& source, const Kernel& kernel, int x0, int y0) {
  const int rows = kPiece + 2 * kernel.reach;
  std::vector<PlainPixel> across(static_cast<std::size_t>(kPiece) * static_cast<std::size_t>(rows));
  std::vector<PlainPixel> row(static_cast<std::size_t>(rows));
  for (int y = 0; y < rows; ++y) {
    for (int x = 0; x < rows; ++x) row[static_cast<std::size_t>(x)] = source(x0 + x - kernel.reach, y0 + y - kernel.reach);
    for (int x = 0; x < kPiece; ++x) {
      PlainPixel& sum = across[static_cast<std::size_t>(y) * kPiece + static_cast<std::size_t>(x)];
      sum = {};
      for (std::size_t k = 0; k < kernel.weights.size(); ++k)
        for (std::size_t c = 0; c < 4; ++c) sum[c] += kernel.weights[k] * row[static_cast<std::size_t>(x) + k][c];
    }
  }
  std::vector<PlainPixel> piece(static_cast<std::size_t>(kPiece) * kPiece);
  for (std::size_t y = 0; y < kPiece; ++y)
    for (std::size_t x = 0; x < kPiece; ++x)
      for (std::size_t k = 0; k < kernel.weights.size(); ++k)
        for (std::size_t c = 0; c < 4; ++c) piece[y * kPiece + x][c] += kernel.weights[k] * across[(y + k) * kPiece + x][c];
  return piece;
}

}  // namespace

PlainPicture plainBlur(PlainPicture source, double sigma) {
  const Kernel kernel(sigma);
  if (kernel.reach == 0) return source;
  auto pieces = std::make_shared<std::map<std::pair<int, int>, std::vector<PlainPixel>>>();
  return [source = std::move(source), kernel, pieces](int x, int y) {
    const int column = static_cast<int>((x - floorMod(x, kPiece)) / kPiece);
    const int line = static_cast<int>((y - floorMod(y, kPiece)) / kPiece);
    auto found = pieces->find({column, line});
    if (found == pieces->end())
      found = pieces->emplace(std::pair(column, line), pieceAt(source, kernel, column * kPiece, line * kPiece)).first;
    return found->second[static_cast<std::size_t>(floorMod(y, kPiece) * kPiece + floorMod(x, kPiece))];
  };
}

}  // namespace oa
