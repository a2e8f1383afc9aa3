#include "graph/counted.h"

#include <utility>

#include "scene/scene.h"

namespace oa {
namespace {

class CountedRows final : public RowMaker {
 public:
  CountedRows(std::shared_ptr<const RowMaker> rows, Spent::Owner owner) : rows_(std::move(rows)), owner_(owner) {}
  [[nodiscard]] int channels() const override { return rows_->channels(); }
  [[nodiscard]] bool opaque() const override { return rows_->opaque(); }
  [[nodiscard]] bool hides(int y, int x0, int n) const override { return rows_->hides(y, x0, n); }
  [[nodiscard]] bool full(int y, int x0, int n) const override { return rows_->full(y, x0, n); }
  [[nodiscard]] bool nothing(int y, int x0, int n) const override { return rows_->nothing(y, x0, n); }
  [[nodiscard]] PixelBox bounds() const override { return rows_->bounds(); }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    const Spent::Scope scope(owner_);
    rows_->rows(y0, y1, out, stride);
  }
  [[nodiscard]] bool makesSpans() const override { return rows_->makesSpans(); }
  [[nodiscard]] bool costly() const override { return rows_->costly(); }
  void span(int y, int x0, int n, float* out) const override {
    const Spent::Scope scope(owner_);
    rows_->span(y, x0, n, out);
  }
  [[nodiscard]] bool paints() const override { return rows_->paints(); }
  void paint(int y, int x0, int n, float* onto) const override {
    const Spent::Scope scope(owner_);
    rows_->paint(y, x0, n, onto);
  }
  [[nodiscard]] std::shared_ptr<const RowMaker> linear() const override {
    auto made = rows_->linear();
    return made ? counted(std::move(made), owner_) : nullptr;
  }
  [[nodiscard]] const float* stored(int y) const override { return rows_->stored(y); }

 private:
  std::shared_ptr<const RowMaker> rows_;
  Spent::Owner owner_;
};

class CountedPoint final : public PointKernel {
 public:
  CountedPoint(std::shared_ptr<const PointKernel> kernel, Spent::Owner owner) : kernel_(std::move(kernel)), owner_(owner) {}
  [[nodiscard]] int outChannels() const override { return kernel_->outChannels(); }
  [[nodiscard]] bool keepsOpaque() const override { return kernel_->keepsOpaque(); }
  [[nodiscard]] std::shared_ptr<const PointKernel> linear() const override {
    auto made = kernel_->linear();
    return made ? std::make_shared<CountedPoint>(std::move(made), owner_) : nullptr;
  }
  void apply(const float* in, float* out, int n, int x0, int y) const override {
    const Spent::Scope scope(owner_);
    kernel_->apply(in, out, n, x0, y);
  }

 private:
  std::shared_ptr<const PointKernel> kernel_;
  Spent::Owner owner_;
};

}  // namespace

Spent::Owner ownerOf(int layer, std::size_t step) { return 1 + static_cast<std::size_t>(layer) * kMaxSteps + step; }
std::size_t ownersFor(std::size_t layers) { return 1 + layers * kMaxSteps; }

std::shared_ptr<const RowMaker> counted(std::shared_ptr<const RowMaker> rows, Spent::Owner owner) {
  return std::make_shared<CountedRows>(std::move(rows), owner);
}

std::unique_ptr<PointKernel> counted(std::unique_ptr<PointKernel> kernel, Spent::Owner owner) {
  return std::make_unique<CountedPoint>(std::move(kernel), owner);
}

}  // namespace oa
