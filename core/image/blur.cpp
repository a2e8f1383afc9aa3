#include "image/blur.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <cstring>
#include <functional>
#include <type_traits>
#include <vector>

#include "base/parallel.h"
#include "image/blur_axis.h"
#include "image/blur_cells.h"
#include "image/buffer.h"
#include "image/enlarged.h"
#include "image/transfer.h"

namespace oa {
namespace {

class Blur final : public RowMaker {
 public:
  Blur(const RowMaker& input, int width, int height, const BlurSettings& settings)
      : x_(width, settings.sigmaX, settings.given),
        y_(height, settings.sigmaY, settings.given),
        channels_(input.channels()),
        opaque_(input.opaque() && settings.edge != Edge::Transparent),
        edge_(settings.edge),
        linear_(settings.linearLight && channels_ == 4) {
    for (int k = 0; k < 4; ++k)
      for (std::size_t i = 0; i < x_.weights[k].size(); ++i) {
        const auto times = static_cast<std::size_t>(channels_);
        spread_[k].insert(spread_[k].end(), times, x_.weights[k][i]);
        if (i % static_cast<std::size_t>(x_.apart) == 0) sampleSpread_[k].insert(sampleSpread_[k].end(), times, x_.weights[k][i]);
      }
    const auto inLight = linear_ && !settings.inLight ? input.linear() : nullptr;
    decodes_ = linear_ && !settings.inLight && !inLight;
    const RowMaker& from = inLight ? *inLight : input;
    y_.factor > 1 ? readCells(from) : readRows(from);
  }

  [[nodiscard]] int channels() const override { return channels_; }
  [[nodiscard]] bool opaque() const override { return opaque_; }

  [[nodiscard]] bool makesSpans() const override { return true; }
  // What is blurred in light, before it is encoded.
  [[nodiscard]] bool hasLight() const { return linear_; }

  // Of wide blurs of fields and of light every few pixels are worked out, and encoded; what lies between follows. Of light that is
  // blurred little downwards every few pixels of a row.
  [[nodiscard]] bool samplesRows() const {
    return (linear_ || channels_ == 1) && x_.apart > 1 && y_.apart > 1 && x_.size > 4 * x_.apart && y_.size > 4 * y_.apart;
  }
  [[nodiscard]] bool samplesAcross() const { return linear_ && x_.apart > 1 && x_.size > 4 * x_.apart; }
  [[nodiscard]] int apart() const { return x_.apart; }

  [[nodiscard]] int samplesIn(const BlurAxis& axis) const { return (axis.size - 1) / axis.apart + 2; }

  [[nodiscard]] std::unique_ptr<RowMaker> sampled() const {
    const int across = samplesIn(x_);
    const int down = samplesIn(y_);
    // One sample before the first, and one more behind the last.
    Plane samples(across + 2, down + 2, channels_);
    parallelBands(down, [&](int first, int behind) {
      FloatBuffer room(static_cast<std::size_t>(sampleRoom(across + 2)));
      for (int j = first; j < behind; ++j)
        std::copy_n(samplesOf(j * y_.apart, 0, across + 2, room.data()), (across + 2) * channels_, samples.row(j + 1));
    });
    const std::ptrdiff_t stride = samples.row(1) - samples.row(0);
    for (int x = 0; x < (across + 2) * channels_; x += channels_) {
      goOn(samples.row(1) + x, static_cast<int>(stride));
      goOn(samples.row(down) + x, -static_cast<int>(stride));
    }
    return enlarged(SampleGrid(std::move(samples), x_.apart, y_.apart, x_.size, y_.size), opaque_);
  }

  // Samples [first - 1, first - 1 + count) of pixel row `y`, of which there is one before the first of the row and one more behind the
  // last: where they lie in `room`, which is sampleRoom() floats.
  const float* samplesOf(int y, int first, int count, float* room) const {
    const int across = samplesIn(x_);
    const int places = x_.factor / x_.apart;
    // What is beyond either end goes on from three samples.
    const int from = std::clamp(first - 1, 0, across - 3);
    const int to = std::clamp(first - 1 + count, from + 3, across);
    const int cell = from / places;
    const int cells = std::min((to - 1) / places + 1, x_.cells) - cell;
    float* const mixed = room;
    float* const made = room + (cells + 2 * x_.keep + 1) * channels_ + kSpanPadding * 4;
    mixRow(y, cell, (cells + 2 * x_.keep) * channels_, mixed);
    enlarge(mixed, cells, places, sampleSpread_, made);
    if (to > (cell + cells) * places) {
      // The first place behind the last cell.
      float* const last = made + static_cast<std::ptrdiff_t>(cells * places) * channels_;
      for (int c = 0; c < channels_; ++c) {
        last[c] = 0;
        for (int t = 0; t < 4; ++t) last[c] += x_.weights[t][0] * mixed[(cells + t) * channels_ + c];
      }
    }
    float* const begin = made + static_cast<std::ptrdiff_t>(from - cell * places) * channels_;
    if (linear_) encodeSpan(begin, to - from);
    if (first == 0) goOn(begin, channels_);
    if (first - 1 + count > across) goOn(begin + static_cast<std::ptrdiff_t>(across - 1 - from) * channels_, -channels_);
    return begin + static_cast<std::ptrdiff_t>(first - 1 - from) * channels_;
  }
  [[nodiscard]] int sampleRoom(int count) const {
    const int places = x_.factor / x_.apart;
    return ((count + 8) * 2 + 2 * places + 4 * kSpanPadding) * 4;
  }

  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    for (int y = y0; y < y1; ++y)
      for (int x = 0; x < x_.size; x += kSpanStep)
        span(y, x, std::min(kSpanStep, x_.size - x), out + (y - y0) * stride + static_cast<std::ptrdiff_t>(x) * channels_);
  }

  void span(int y, int x0, int n, float* out) const override {
    mixed(y, x0, n, out);
    if (linear_) encodeSpan(out, n);
  }

  // The same in what it is blurred in.
  void mixed(int y, int x0, int n, float* out) const {
    // The cells under the span, and two more on each side where they are enlarged. Cells wider than a span
    // (blurs of many hundred pixels) are enlarged whole and cut.
    const int first = x_.factor > 1 ? x0 / x_.factor : x0;
    const int skip = x_.factor > 1 ? x0 - first * x_.factor : 0;
    const int cells = x_.factor > 1 ? (skip + n + x_.factor - 1) / x_.factor : n;
    const int count = (cells + 2 * x_.keep) * channels_;
    if (x_.factor == 1) {
      mixRow(y, first, count, out);
    } else {
      alignas(128) float mixed[(kSpanStep + 8) * 4];
      mixRow(y, first, count, mixed);
      const bool fits = skip == 0 && cells * x_.factor <= n + kSpanPadding;
      if (fits) {
        enlarge(mixed, cells, x_.factor, spread_, out);
      } else {
        FloatBuffer room(static_cast<std::size_t>(paddedRow(cells * x_.factor, channels_)));
        float* const wide = room.data();
        enlarge(mixed, cells, x_.factor, spread_, wide);
        std::memcpy(out, wide + static_cast<std::ptrdiff_t>(skip) * channels_, sizeof(float) * static_cast<std::size_t>(n * channels_));
      }
    }
  }

 private:
  // Cells from `first` on and what is read beside them, `count` floats, of pixel row `y`.
  void mixRow(int y, int first, int count, float* out) const {
    const float* from[2 * kMostReach + 1];
    int sources = 0;
    const float* weights = y_.taps.data();
    float four[4];
    const auto add = [&](const float* row) { from[sources++] = row + static_cast<std::ptrdiff_t>(first) * channels_; };
    if (y_.factor > 1) {
      const int place = y % y_.factor;
      const int upper = y / y_.factor + (place < y_.factor / 2 ? 0 : 1);
      for (int k = 0; k < 4; ++k) {
        four[k] = y_.weights[k][static_cast<std::size_t>(place)];
        add(small_.row(upper + k));
      }
      weights = four;
    } else {
      for (int k = -y_.reach; k <= y_.reach; ++k) {
        const int source = edgeIndex(edge_, y + k, y_.size);
        add(source < 0 ? nothing_.data() : small_.row(source));
      }
    }
    weightedRows(from, weights, sources, count, out);
  }

  // A row of cells, with two more on either side, to `places` of each.
  void enlarge(const float* mixed, int cells, int places, const std::vector<float>* spread, float* out) const {
    const float* weights[4] = {spread[0].data(), spread[1].data(), spread[2].data(), spread[3].data()};
    if (places > 1) return enlargeCells(mixed, weights, cells, places, channels_, out);
    const float* shifted[4];
    float taps[4];
    for (int t = 0; t < 4; ++t) {
      shifted[t] = mixed + static_cast<std::ptrdiff_t>(t) * channels_;
      taps[t] = spread[t][0];
    }
    weightedRows(shifted, taps, 4, cells * channels_, out);
  }

  // The sample before the first, as a parabola through three goes on (Keys 1981, section III).
  void goOn(float* first, int step) const {
    for (int c = 0; c < channels_; ++c) first[-step + c] = 3 * first[c] - 3 * first[step + c] + first[2 * step + c];
  }

  // The input's rows as they come, each for as long as the next is not asked for.
  class Rows {
   public:
    // Rows that are made have room for so many pixels before and behind them.
    Rows(const RowMaker& input, int width, bool linear, int before, int behind)
        : input_(input),
          width_(width),
          linear_(linear),
          before_((before + kSpanPadding - 1) / kSpanPadding * kSpanPadding),
          stride_(paddedRow(before_ + width + behind, input.channels())) {}

    static constexpr int kRun = 8;

    // Pointers to `count` (at most kRun) rows; those that follow one another are made together, as sources prefer.
    // The row itself, which may be written to on both sides, if it was made here; else null.
    [[nodiscard]] float* made(const float* row) {
      float* const first = made_.data();
      const bool here = first && std::less_equal<>()(first, row) && std::less<>()(row, first + stride_ * kRun);
      return here ? first + (row - first) : nullptr;
    }
    void get(const int* sources, int count, const float* nothing, const float** out) {
      for (int i = 0; i < count;) {
        if (sources[i] < 0) {
          out[i++] = nothing;
          continue;
        }
        if (const float* row = linear_ ? nullptr : input_.stored(sources[i])) {
          out[i++] = row;
          continue;
        }
        int run = 1;
        while (i + run < count && sources[i + run] == sources[i] + run) ++run;
        if (!made_.data()) made_ = FloatBuffer(static_cast<std::size_t>(stride_) * kRun);
        float* const begin = made_.data() + static_cast<std::ptrdiff_t>(before_) * input_.channels();
        input_.rows(sources[i], sources[i] + run, begin + i * stride_, stride_);
        for (const int end = i + run; i < end; ++i) {
          float* row = begin + i * stride_;
          if (linear_) decodeSpan(row, width_);
          out[i] = row;
        }
      }
    }

   private:
    const RowMaker& input_;
    int width_;
    bool linear_;
    int before_;
    std::ptrdiff_t stride_;
    FloatBuffer made_;
  };

  // Extends one row on both sides and reduces it to cells.
  class Across {
   public:
    Across(const BlurAxis& x, Edge edge, int channels) : x_(x), channels_(channels), whole_(x.read / x.box) {
      const auto gathered = [&](std::int64_t from, std::int64_t to) {
        std::vector<int> sources;
        for (std::int64_t i = from; i < to; ++i) sources.push_back(edgeIndex(edge, i, x.read));
        return sources;
      };
      // The row's own whole cells are read where it lies; what sticks out on both sides is gathered in front.
      left_ = gathered(-std::int64_t{x.boxesBefore()} * x.box, 0);
      right_ = gathered(std::int64_t{whole_} * x.box, std::int64_t{x.boxes() - x.boxesBefore()} * x.box);
    }
    struct Scratch {
      FloatBuffer outside;
      FloatBuffer boxes;
    };
    [[nodiscard]] Scratch scratch() const {
      return {FloatBuffer(static_cast<std::size_t>(paddedRow(static_cast<int>(std::max(left_.size(), right_.size())), channels_))),
              FloatBuffer(static_cast<std::size_t>(paddedRow(x_.boxes(), channels_)))};
    }

    // One row of paddedCells(). `roomy` is the same row where there is room on both sides of it, else null.
    void reduce(const float* row, float* roomy, float* target, Scratch& s) const {
      const std::ptrdiff_t pixel = channels_;
      if (roomy && x_.box == 1 && x_.thin > 1) {
        // Boxes of one pixel are those pixels: only what sticks out is put beside them.
        gather(row, left_, roomy - x_.boxesBefore() * pixel);
        gather(row, right_, roomy + whole_ * pixel);
        return thinned(row - x_.boxesBefore() * pixel, target);
      }
      float* boxes = x_.thin > 1 ? s.boxes.data() : target;
      gather(row, left_, s.outside.data());
      boxesOf(s.outside.data(), x_.boxesBefore(), boxes);
      boxesOf(row, whole_, boxes + x_.boxesBefore() * pixel);
      gather(row, right_, s.outside.data());
      boxesOf(s.outside.data(), x_.boxes() - x_.boxesBefore() - whole_, boxes + (x_.boxesBefore() + whole_) * pixel);
      if (x_.thin > 1) thinned(boxes, target);
    }
    [[nodiscard]] int before() const { return static_cast<int>(left_.size()); }
    [[nodiscard]] int behind() const { return static_cast<int>(right_.size()); }

   private:
    void thinned(const float* boxes, float* target) const {
      thinCells(boxes, x_.thinTaps.data(), static_cast<int>(x_.thinTaps.size()), x_.thin, x_.paddedCells(), channels_, target);
    }
    void gather(const float* row, const std::vector<int>& sources, float* to) const {
      const auto copy = [&](auto size) {
        for (const int source : sources) {
          if (source < 0)
            std::memset(to, 0, sizeof(float) * size);
          else
            std::memcpy(to, row + static_cast<std::ptrdiff_t>(source) * size, sizeof(float) * size);
          to += size;
        }
      };
      // A size known to the compiler makes each copy one instruction.
      if (channels_ == 4)
        copy(std::integral_constant<std::ptrdiff_t, 4>());
      else
        copy(std::integral_constant<std::ptrdiff_t, 1>());
    }
    void boxesOf(const float* from, int count, float* to) const {
      if (x_.box > 1)
        reduceCells(from, count, x_.box, channels_, to);
      else
        std::memcpy(to, from, sizeof(float) * static_cast<std::size_t>(count * channels_));
    }

    const BlurAxis& x_;
    int channels_;
    int whole_;
    std::vector<int> left_;
    std::vector<int> right_;
  };

  // Where only the width has a small grid: each row is reduced and filtered across at once.
  void readRows(const RowMaker& input) {
    const Across across(x_, edge_, channels_);
    const int kept = x_.cells + 2 * x_.keep;
    small_ = Plane(kept, y_.read, channels_);
    nothing_.assign(static_cast<std::size_t>(paddedRow(x_.paddedCells(), channels_)), 0.0f);
    parallelBands(y_.read, [&](int y0, int y1) {
      Rows rows(input, x_.read, decodes_, across.before(), across.behind());
      Across::Scratch scratch = across.scratch();
      FloatBuffer cells(static_cast<std::size_t>(paddedRow(x_.paddedCells(), channels_)));
      int sources[Rows::kRun];
      const float* from[Rows::kRun];
      for (int y = y0; y < y1; y += Rows::kRun) {
        const int count = std::min(Rows::kRun, y1 - y);
        for (int i = 0; i < count; ++i) sources[i] = y + i;
        rows.get(sources, count, nullptr, from);
        for (int i = 0; i < count; ++i) {
          across.reduce(from[i], rows.made(from[i]), cells.data(), scratch);
          filterAcross(cells.data(), kept, small_.row(y + i));
        }
      }
    });
  }

  // Where both have one. The input is read once: first the mean of the rows of a box, several rows side by side as
  // memory likes it, then what is left, a small part, across. Box rows beyond the edges are mostly copies.
  void readCells(const RowMaker& input) {
    const Across across(x_, edge_, channels_);
    const int f = y_.box;
    const int before = y_.boxesBefore();
    const int allRows = y_.boxes();
    const int own = std::min((y_.read + f - 1) / f, allRows - before);  // box rows that begin within the picture
    Plane boxes(x_.paddedCells(), allRows, channels_);
    nothing_.assign(static_cast<std::size_t>(paddedRow(x_.read, channels_)), 0.0f);
    const auto sourcesOf = [&](int r) {
      std::vector<int> sources(static_cast<std::size_t>(f));
      for (int i = 0; i < f; ++i)
        sources[static_cast<std::size_t>(i)] = edgeIndex(edge_, static_cast<std::int64_t>(r - before) * f + i, y_.read);
      return sources;
    };
    struct Scratch {
      Rows rows;
      Across::Scratch across;
      FloatBuffer mean;
    };
    const auto scratch = [&] {
      return Scratch{Rows(input, x_.read, decodes_, across.before(), across.behind()), across.scratch(),
                     FloatBuffer(static_cast<std::size_t>(paddedRow(x_.read, channels_)))};
    };
    const auto make = [&](int r, const std::vector<int>& sources, Scratch& s) {
      float taps[Rows::kRun + 1];
      std::fill(std::begin(taps), std::end(taps), 1.0f / static_cast<float>(f));
      const float* from[Rows::kRun + 1];
      for (int done = 0; done < f; done += Rows::kRun) {
        int count = std::min(Rows::kRun, f - done);
        s.rows.get(sources.data() + done, count, nothing_.data(), from);
        if (done > 0) {
          from[count] = s.mean.data();
          taps[count++] = 1;
        }
        weightedRows(from, taps, count, x_.read * channels_, s.mean.data());
      }
      across.reduce(s.mean.data(), nullptr, boxes.row(r), s.across);
    };
    // Rows of cells, from those of boxes.
    Plane cells = y_.thin > 1 ? Plane(x_.paddedCells(), y_.paddedCells(), channels_) : Plane();
    std::vector<std::uint8_t> thinned(static_cast<std::size_t>(y_.thin > 1 ? cells.height() : 0));
    const auto taps = static_cast<int>(y_.thinTaps.size());
    const auto thin = [&](int cell) {
      std::vector<const float*> from(y_.thinTaps.size());
      for (int i = 0; i < taps; ++i) from[static_cast<std::size_t>(i)] = boxes.row(cell * y_.thin + i);
      weightedRows(from.data(), y_.thinTaps.data(), taps, x_.paddedCells() * channels_, cells.row(cell));
    };
    // Boxes of one row are those rows. What they alone are thinned to is made while they are at hand.
    const auto rowsThemselves = [&](int r0, int r1, Scratch& s) {
      int sources[Rows::kRun];
      const float* from[Rows::kRun];
      for (int r = r0; r < r1; r += Rows::kRun) {
        const int count = std::min(Rows::kRun, r1 - r);
        for (int i = 0; i < count; ++i) sources[i] = r + i;
        s.rows.get(sources, count, nothing_.data(), from);
        for (int i = 0; i < count; ++i) across.reduce(from[i], s.rows.made(from[i]), boxes.row(before + r + i), s.across);
      }
      if (y_.thin == 1) return;
      for (int cell = (before + r0 + y_.thin - 1) / y_.thin; cell * y_.thin + taps <= before + r1; ++cell) {
        thin(cell);
        thinned[static_cast<std::size_t>(cell)] = 1;
      }
    };
    parallelBands(
        own,
        [&](int r0, int r1) {
          Scratch s = scratch();
          if (f == 1) return rowsThemselves(r0, r1, s);
          for (int r = r0 + before; r < r1 + before; ++r) make(r, sourcesOf(r), s);
        },
        f == 1 ? kBandRows : 4);
    Scratch s = scratch();
    const auto copyRow = [&](int to, int from) {
      std::memcpy(boxes.row(to), boxes.row(from), sizeof(float) * static_cast<std::size_t>(x_.paddedCells() * channels_));
    };
    std::vector<int> lastSources;
    int lastRow = -1;
    for (int r = 0; r < allRows; ++r) {
      if (r >= before && r < before + own) continue;
      std::vector<int> sources = sourcesOf(r);
      std::sort(sources.begin(), sources.end());
      const int first = sources.front();
      const bool wholeCell = first >= 0 && first % f == 0 && sources.back() == first + f - 1 &&
                             std::adjacent_find(sources.begin(), sources.end()) == sources.end();
      if (wholeCell)
        copyRow(r, first / f + before);
      else if (sources == lastSources)
        copyRow(r, lastRow);
      else
        make(r, sources, s);
      lastSources = std::move(sources);
      lastRow = r;
    }
    if (y_.thin == 1) return filterCells(boxes);
    parallelBands(cells.height(), [&](int r0, int r1) {
      for (int r = r0; r < r1; ++r)
        if (thinned[static_cast<std::size_t>(r)] == 0) thin(r);
    });
    filterCells(cells);
  }

  void filterAcross(const float* padded, int kept, float* out) const {
    const float* shifted[2 * kMostReach + 1];
    for (int k = 0; k < 2 * x_.reach + 1; ++k) shifted[k] = padded + static_cast<std::ptrdiff_t>(k) * channels_;
    weightedRows(shifted, x_.taps.data(), 2 * x_.reach + 1, kept * channels_, out);
  }

  // The small grid, filtered both ways.
  void filterCells(const Plane& cells) {
    const int kept = x_.cells + 2 * x_.keep;
    small_ = Plane(kept, y_.cells + 2 * y_.keep, channels_);
    parallelBands(
        small_.height(),
        [&](int r0, int r1) {
          // Rows that read mostly the same ones are made together.
          const std::ptrdiff_t stride = paddedRow(cells.width(), channels_);
          FloatBuffer room(static_cast<std::size_t>(stride) * kRowsAtOnce);
          float* made[kRowsAtOnce];
          for (int j = 0; j < kRowsAtOnce; ++j) made[j] = room.data() + j * stride;
          const int taps = 2 * y_.reach + 1;
          const int floats = cells.width() * channels_;
          const float* from[2 * kMostReach + kRowsAtOnce];
          for (int r = r0; r < r1; r += kRowsAtOnce) {
            const int count = std::min(kRowsAtOnce, r1 - r);
            for (int k = 0; k < taps + count - 1; ++k) from[k] = cells.row(r + k);
            if (count == kRowsAtOnce)
              weightedRowsFour(from, y_.taps.data(), taps, floats, made);
            else
              for (int j = 0; j < count; ++j) weightedRows(from + j, y_.taps.data(), taps, floats, made[j]);
            for (int j = 0; j < count; ++j) filterAcross(made[j], kept, small_.row(r + j));
          }
        },
        4);
  }

  BlurAxis x_;
  BlurAxis y_;
  int channels_;
  bool opaque_;
  Edge edge_;
  bool linear_;
  bool decodes_ = false;                // what is read is not yet light
  std::vector<float> spread_[4];        // weights of each pixel of a cell
  std::vector<float> sampleSpread_[4];  // of those that are samples
  std::vector<float> nothing_;
  Plane small_;  // what rows() reads
};

// What is known every few pixels of each row.
class AcrossSamples final : public SampleRows {
 public:
  explicit AcrossSamples(std::shared_ptr<const Blur> blur) : blur_(std::move(blur)) {}
  const float* samples(int y, int first, int count, float* room) const override { return blur_->samplesOf(y, first, count, room); }
  [[nodiscard]] int room(int count) const override { return blur_->sampleRoom(count); }

 private:
  std::shared_ptr<const Blur> blur_;
};

// A blur by all of its pixels, as what is dear about them is to encode them.
class LightRows final : public SpanMaker {
 public:
  LightRows(std::shared_ptr<const Blur> blur, int width) : SpanMaker(width), blur_(std::move(blur)) {}
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] bool opaque() const override { return blur_->opaque(); }
  void span(int y, int x0, int n, float* out) const override { blur_->mixed(y, x0, n, out); }

 private:
  std::shared_ptr<const Blur> blur_;
};

// A blur of light, which is there as well as what is shown of it; that is prepared when it is first asked for.
class ShownBlur final : public RowMaker {
 public:
  ShownBlur(std::shared_ptr<const Blur> blur, int width) : blur_(std::move(blur)), width_(width) {}
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] bool opaque() const override { return blur_->opaque(); }
  [[nodiscard]] bool makesSpans() const override { return true; }
  void span(int y, int x0, int n, float* out) const override { shown().span(y, x0, n, out); }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override { shown().rows(y0, y1, out, stride); }
  [[nodiscard]] std::shared_ptr<const RowMaker> linear() const override { return std::make_shared<LightRows>(blur_, width_); }

 private:
  const RowMaker& shown() const {
    prepared_.call([this] {
      if (blur_->samplesRows())
        shown_ = blur_->sampled();
      else if (blur_->samplesAcross())
        shown_ = enlarged(std::make_unique<AcrossSamples>(blur_), blur_->apart(), width_, blur_->opaque());
      else
        shown_ = blur_;
    });
    return *shown_;
  }

  std::shared_ptr<const Blur> blur_;
  int width_;
  mutable ParallelOnce prepared_;
  mutable std::shared_ptr<const RowMaker> shown_;
};

}  // namespace

std::unique_ptr<RowMaker> blurred(const RowMaker& input, int width, int height, const BlurSettings& settings) {
  auto made = std::make_unique<Blur>(input, width, height, settings);
  if (made->hasLight()) return std::make_unique<ShownBlur>(std::move(made), width);
  if (made->samplesRows()) return made->sampled();
  return made;
}

}  // namespace oa
