#include "image/light_shares.h"

#include <algorithm>
#include <array>
#include <utility>

#include "image/grey.h"
#include "image/same_rows.h"
#include "image/transfer.h"

namespace oa {
namespace {

class LightShares final : public SameRows {
 public:
  LightShares(std::shared_ptr<const RowMaker> rows, const Tint& light, int width)
      : SameRows(std::move(rows)), width_(width), light_{light[0], light[1], light[2], 1} {}
  [[nodiscard]] bool makesSpans() const override { return same().makesSpans() || same().stored(0) != nullptr; }
  void span(int y, int x0, int n, float* out) const override {
    alignas(64) float alphas[kSpanStep + kSpanPadding];
    const StoredShares kept = same().storedShares(y, x0, n);
    if (kept.colour || same().alphas(y, x0, n, alphas)) return tintCover(kept.colour ? kept.alphas : alphas, n, 1, light_, out);
    if (const float* const part = same().storedPart(y, x0, n)) return decodeTint(part, light_, out, n);
    same().span(y, x0, n, out);
    decodeTint(out, light_, out, n);
  }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    same().rows(y0, y1, out, stride);
    for (int y = y0; y < y1; ++y) decodeTint(out + (y - y0) * stride, light_, out + (y - y0) * stride, width_);
  }
  [[nodiscard]] bool paints() const override { return false; }
  [[nodiscard]] bool alphas(int /*y*/, int /*x0*/, int /*n*/, float* /*out*/) const override { return false; }
  [[nodiscard]] std::optional<Tint> tint() const override { return std::nullopt; }
  [[nodiscard]] const float* stored(int /*y*/) const override { return nullptr; }
  [[nodiscard]] const float* storedPart(int /*y*/, int /*x0*/, int /*n*/) const override { return nullptr; }
  [[nodiscard]] StoredShares storedShares(int /*y*/, int /*x0*/, int /*n*/) const override { return {}; }

 private:
  int width_;
  float light_[4];
};

}  // namespace

Tint lightOf(const Tint& tint) {
  alignas(64) std::array<float, std::size_t{kSpanPadding} * 4> pixels{tint[0], tint[1], tint[2], 1};
  decodeSpan(pixels.data(), 1);
  return {pixels[0], pixels[1], pixels[2]};
}

std::shared_ptr<const RowMaker> lightShares(std::shared_ptr<const RowMaker> rows, int width) {
  const Tint light = lightOf(*rows->tint());
  return std::make_shared<LightShares>(std::move(rows), light, width);
}

}  // namespace oa
