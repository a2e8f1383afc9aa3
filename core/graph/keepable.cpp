#include "graph/keepable.h"

#include <utility>

#include "image/same_rows.h"
#include "image/transfer.h"

namespace oa {
namespace {

// Rows of which the light is at hand.
class LitRows final : public SameRows {
 public:
  LitRows(std::shared_ptr<const RowMaker> light, int width) : SameRows(light), light_(std::move(light)), width_(width) {}
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    SameRows::rows(y0, y1, out, stride);
    for (int y = y0; y < y1; ++y) encodeSpan(out + (y - y0) * stride, width_);
  }
  void span(int y, int x0, int n, float* out) const override {
    SameRows::span(y, x0, n, out);
    encodeSpan(out, n);
  }
  [[nodiscard]] bool paints() const override { return false; }
  [[nodiscard]] std::optional<Tint> tint() const override { return std::nullopt; }
  [[nodiscard]] const float* stored(int /*y*/) const override { return nullptr; }
  [[nodiscard]] const float* storedPart(int /*y*/, int /*x0*/, int /*n*/) const override { return nullptr; }
  [[nodiscard]] StoredShares storedShares(int /*y*/, int /*x0*/, int /*n*/) const override { return {}; }
  [[nodiscard]] std::shared_ptr<const RowMaker> linear() const override { return light_; }

 private:
  std::shared_ptr<const RowMaker> light_;
  int width_;
};

// Rows of which it was known that they are in one colour, before they were kept.
class TintedRows final : public SameRows {
 public:
  TintedRows(std::shared_ptr<const RowMaker> rows, const Tint& tint) : SameRows(std::move(rows)), tint_(tint) {}
  [[nodiscard]] std::optional<Tint> tint() const override { return tint_; }

 private:
  Tint tint_;
};

}  // namespace

std::shared_ptr<const RowMaker> keepable(std::shared_ptr<const RowMaker> rows, int width, bool light) {
  if (light && rows->channels() == 4)
    if (auto known = rows->linear()) return std::make_shared<LitRows>(std::move(known), width);
  return std::make_shared<SameRows>(std::move(rows));
}

std::shared_ptr<const RowMaker> keptAs(const std::shared_ptr<const RowMaker>& rows, int width, const Keep& keep) {
  const auto* lit = dynamic_cast<const LitRows*>(rows.get());
  if (lit) return std::make_shared<LitRows>(keep(lit->linear()), width);
  auto kept = keep(rows);
  const auto tint = rows->tint();
  return tint && !kept->tint() ? std::make_shared<TintedRows>(std::move(kept), *tint) : kept;
}

}  // namespace oa
