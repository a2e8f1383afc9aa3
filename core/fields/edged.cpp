#include "fields/edged.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <utility>
#include <vector>

#include "image/buffer.h"
#include "image/sampling.h"

namespace oa {
namespace {

PixelRange framePixels(double before, double length, double scale) {
  const auto pixel = [](double v) { return static_cast<int>(std::lround(std::clamp(v, -1e8, 1e8))); };
  const int begin = pixel(-before * scale);
  return {begin, std::max(begin + 1, pixel((length - before) * scale))};
}

// For each pixel along an axis the one of the frame that stands for it (counted from the frame's first), or -1; and the range
// of those.
struct Sources {
  std::vector<int> of;
  int low = 0;
  int high = -1;

  Sources(int size, PixelRange frame, Edge edge) {
    low = frame.end - frame.begin;
    for (int i = 0; i < size; ++i) {
      of.push_back(edgeIndex(edge, i - frame.begin, frame.end - frame.begin));
      if (of.back() < 0) continue;
      low = std::min(low, of.back());
      high = std::max(high, of.back());
    }
  }
  [[nodiscard]] bool none() const { return high < 0; }
};

// Pixels side by side whose sources follow one another, are one and the same, or follow one another backwards.
struct Run {
  int begin;
  int count;
  int source;  // -1: nothing
  int step;
};

std::vector<Run> runsOf(const Sources& sources) {
  std::vector<Run> runs;
  for (std::size_t i = 0; i < sources.of.size(); ++i) {
    const int at = sources.of[i];
    const int source = at < 0 ? -1 : at - sources.low;
    if (!runs.empty()) {
      Run& run = runs.back();
      const int step = run.count > 1 ? run.step : source - run.source;
      const bool alike = run.source < 0 ? source < 0 : source >= 0 && std::abs(step) <= 1 && source == run.source + run.count * step;
      if (alike) {
        run.step = run.source < 0 ? 0 : step;
        ++run.count;
        continue;
      }
    }
    runs.push_back({static_cast<int>(i), 1, source, 1});
  }
  return runs;
}

// Rows of a part of the frame, with what lies round it filled by a rule.
class EdgedRows final : public RowMaker {
 public:
  EdgedRows(std::shared_ptr<const RowMaker> part, const Sources& across, Sources down, Edge edge)
      : down_(std::move(down)), runs_(runsOf(across)), width_(across.none() ? 1 : across.high - across.low + 1) {
    const bool nothing = across.none() || down_.none();
    if (nothing) down_.of.assign(down_.of.size(), -1);
    channels_ = part->channels();
    opaque_ = part->opaque() && (edge != Edge::Transparent || channels_ == 1);
    // Where rows come in their order, each band makes those that it needs.
    if (edge == Edge::Clamp || edge == Edge::Transparent)
      part_ = std::move(part);
    else
      stored_.emplace(std::move(part), width_, nothing ? 1 : down_.high - down_.low + 1);
  }
  [[nodiscard]] int channels() const override { return channels_; }
  [[nodiscard]] bool opaque() const override { return opaque_; }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    int low = down_.high + 1;
    int high = -1;
    for (int y = y0; y < y1; ++y)
      if (const int source = down_.of[static_cast<std::size_t>(y)]; source >= 0) low = std::min(low, source), high = std::max(high, source);
    FloatBuffer made;
    const std::ptrdiff_t room = paddedRow(width_, channels_);
    if (part_ && low <= high) {
      made = FloatBuffer(static_cast<std::size_t>(room * (high - low + 1)));
      part_->rows(low - down_.low, high + 1 - down_.low, made.data(), room);
    }
    for (int y = y0; y < y1; ++y) {
      const int source = down_.of[static_cast<std::size_t>(y)];
      float* const row = out + (y - y0) * stride;
      if (source < 0)
        std::fill_n(row, static_cast<std::ptrdiff_t>(runs_.back().begin + runs_.back().count) * channels_, 0.0f);
      else
        fill(part_ ? made.data() + (source - low) * room : stored_->pixels().row(source - down_.low), row);
    }
  }

 private:
  void fill(const float* from, float* row) const {
    for (const Run& run : runs_) {
      float* to = row + static_cast<std::ptrdiff_t>(run.begin) * channels_;
      const auto floats = static_cast<std::ptrdiff_t>(run.count) * channels_;
      const float* at = from + static_cast<std::ptrdiff_t>(run.source) * channels_;
      if (run.source < 0) {
        std::fill_n(to, floats, 0.0f);
      } else if (run.step == 1) {
        std::copy_n(at, floats, to);
      } else {
        for (int i = 0; i < run.count; ++i, to += channels_, at += run.step * channels_) std::copy_n(at, channels_, to);
      }
    }
  }

  Sources down_;
  std::vector<Run> runs_;  // across
  int width_;
  int channels_ = 1;
  bool opaque_ = true;
  std::shared_ptr<const RowMaker> part_;
  std::optional<SourcePlane> stored_;
};

}  // namespace

PixelRange frameColumns(const PlaneView& view) { return framePixels(view.left, view.frameWidth, view.scale); }
PixelRange frameRows(const PlaneView& view) { return framePixels(view.top, view.frameHeight, view.scale); }

std::shared_ptr<const RowMaker> edgedRows(const Input& input, const PlaneView& view, Edge edge) {
  if (edge == Edge::Beyond) return input.pull(view);
  const PixelRange columns = frameColumns(view);
  const PixelRange rows = frameRows(view);
  const bool inside = columns.begin <= 0 && columns.end >= view.width && rows.begin <= 0 && rows.end >= view.height;
  if (inside) return input.pull(view);
  const Sources across(view.width, columns, edge);
  const Sources down(view.height, rows, edge);
  const bool nothing = across.none() || down.none();
  // At least one pixel is pulled: it says how many channels there are.
  const int x0 = nothing ? 0 : across.low + columns.begin;
  const int y0 = nothing ? 0 : down.low + rows.begin;
  auto part = input.pull(view.part(x0, y0, nothing ? 1 : across.high - across.low + 1, nothing ? 1 : down.high - down.low + 1));
  return std::make_shared<EdgedRows>(std::move(part), across, down, edge);
}

}  // namespace oa
