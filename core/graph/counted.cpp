#include "graph/counted.h"

#include <utility>

#include "image/same_rows.h"
#include "scene/scene.h"

namespace oa {
namespace {

class CountedRows final : public SameRows {
 public:
  CountedRows(std::shared_ptr<const RowMaker> rows, Spent::Owner owner) : SameRows(std::move(rows)), owner_(owner) {}
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    const Spent::Scope scope(owner_);
    SameRows::rows(y0, y1, out, stride);
  }
  void span(int y, int x0, int n, float* out) const override {
    const Spent::Scope scope(owner_);
    SameRows::span(y, x0, n, out);
  }
  void paint(int y, int x0, int n, float* onto) const override {
    const Spent::Scope scope(owner_);
    SameRows::paint(y, x0, n, onto);
  }
  [[nodiscard]] std::shared_ptr<const RowMaker> linear() const override {
    auto made = same().linear();
    return made ? counted(std::move(made), owner_) : nullptr;
  }

 private:
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
