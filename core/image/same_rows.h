// Rows as others make them: for makers that change one thing about them.
#pragma once

#include <memory>
#include <utility>

#include "image/rows.h"

namespace oa {

/// Says and makes what another maker does, but for its light, which nobody is told.
class SameRows : public RowMaker {
 public:
  explicit SameRows(std::shared_ptr<const RowMaker> rows) : rows_(std::move(rows)) {}
  [[nodiscard]] int channels() const override { return rows_->channels(); }
  [[nodiscard]] bool opaque() const override { return rows_->opaque(); }
  [[nodiscard]] bool hides(int y, int x0, int n) const override { return rows_->hides(y, x0, n); }
  [[nodiscard]] bool full(int y, int x0, int n) const override { return rows_->full(y, x0, n); }
  [[nodiscard]] bool nothing(int y, int x0, int n) const override { return rows_->nothing(y, x0, n); }
  [[nodiscard]] RowParts something(int y, int x0, int n) const override { return rows_->something(y, x0, n); }
  [[nodiscard]] PixelBox bounds() const override { return rows_->bounds(); }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override { rows_->rows(y0, y1, out, stride); }
  [[nodiscard]] bool makesSpans() const override { return rows_->makesSpans(); }
  [[nodiscard]] bool costly() const override { return rows_->costly(); }
  void span(int y, int x0, int n, float* out) const override { rows_->span(y, x0, n, out); }
  [[nodiscard]] bool paints() const override { return rows_->paints(); }
  void paint(int y, int x0, int n, float* onto) const override { rows_->paint(y, x0, n, onto); }
  [[nodiscard]] std::optional<Tint> tint() const override { return rows_->tint(); }
  [[nodiscard]] bool alphas(int y, int x0, int n, float* out) const override { return rows_->alphas(y, x0, n, out); }
  [[nodiscard]] const float* stored(int y) const override { return rows_->stored(y); }
  [[nodiscard]] const float* storedPart(int y, int x0, int n) const override { return rows_->storedPart(y, x0, n); }
  [[nodiscard]] StoredShares storedShares(int y, int x0, int n) const override { return rows_->storedShares(y, x0, n); }

 protected:
  [[nodiscard]] const RowMaker& same() const { return *rows_; }

 private:
  std::shared_ptr<const RowMaker> rows_;
};

}  // namespace oa
