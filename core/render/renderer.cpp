#include "render/renderer.h"

#include <algorithm>

#include "base/parallel.h"
#include "image/grey.h"
#include "image/sampling.h"
#include "image/transfer.h"
#include "render/layer_pass.h"

namespace oa {
namespace {

// Memory that layers at rest may fill, in bytes.
constexpr std::size_t kKeepBytes = std::size_t{768} << 20;

struct Stage {
  std::unique_ptr<LayerPass> pass;
  BlendMode blend = BlendMode::Normal;
  float opacity = 1;
};

// Scratch of one thread, kept between bands and frames.
struct Scratch {
  std::vector<FloatBuffer> bands;  // per stage, for bases that come in bands
  std::vector<std::size_t> sizes;
  float* band(std::size_t stage, std::size_t floats) {
    if (bands.size() <= stage) {
      bands.resize(stage + 1);
      sizes.resize(stage + 1);
    }
    if (sizes[stage] < floats) {
      bands[stage] = FloatBuffer(floats);
      sizes[stage] = floats;
    }
    return bands[stage].data();
  }
};

}  // namespace

struct Renderer::Kept {
  std::shared_ptr<const RowMaker> base;  // the layer's whole steps, where they do not move
};

Renderer::Renderer(Scene scene, int width, int height, RenderOptions options)
    : scene_(std::move(scene)), width_(width), height_(height), options_(options), kept_(scene_.layers.size()) {}

Renderer::~Renderer() = default;

void Renderer::render(std::int64_t k, PixelSink& sink) {
  const Moment at{k, scene_.frames};
  const FrameInfo frame = FrameInfo::cover(scene_.width, scene_.height, width_, height_);
  withThreads(options_.threads, [&] {
    std::vector<Stage> stages;
    for (std::size_t i = 0; i < scene_.layers.size(); ++i) {
      const Layer& layer = scene_.layers[i];
      if (!layer.visible) continue;
      const auto opacity = static_cast<float>(std::get<double>(evaluate(opacitySpec(), layer.opacity, at).value));
      if (opacity <= 0) continue;
      if (options_.cancel && *options_.cancel) return;
      const std::size_t whole = wholeSteps(layer);
      Stage stage;
      stage.blend = layer.blend;
      stage.opacity = opacity;
      if (options_.manyFrames && !kept_[i]) {
        Layer still = layer;
        still.recipe.resize(whole);
        still.opacity = defaultParam(opacitySpec());
        kept_[i] = std::make_unique<Kept>();
        if (commonLaps(still) == 0) {
          const LayerPass pass(layer, 0, whole, nullptr, at, frame);
          const std::size_t bytes = static_cast<std::size_t>(width_) * static_cast<std::size_t>(height_) * sizeof(float) *
                                    static_cast<std::size_t>(pass.channels());
          // What is made span by span is made as quickly as it could be read; an area step's maker has the
          // costly part behind it.
          if (pass.base().makesSpans()) {
            if (whole > 1) kept_[i]->base = pass.sharedBase();
          } else if (keptBytes_ + bytes <= kKeepBytes) {
            kept_[i]->base = planeRows(wholePlane(pass, width_, height_), pass.opaque());
            keptBytes_ += bytes;
          }
        }
      }
      if (kept_[i] && kept_[i]->base)
        stage.pass = std::make_unique<LayerPass>(layer, whole, layer.recipe.size(), kept_[i]->base, at, frame);
      else
        stage.pass = std::make_unique<LayerPass>(layer, 0, layer.recipe.size(), nullptr, at, frame);
      stages.push_back(std::move(stage));
    }

    // A backdrop that the lowest layer hides wholly need not be laid.
    const bool covered = !stages.empty() && stages[0].blend == BlendMode::Normal && stages[0].opacity >= 1 && stages[0].pass->opaque();
    const Colour bg = scene_.background.value_or(Colour{0, 0, 0, 0});
    float backdrop[16 * 4];
    const float premultiplied[4] = {bg.r * bg.a, bg.g * bg.a, bg.b * bg.a, bg.a};
    fillRgba(premultiplied, 16, backdrop);
    if (scene_.linearLight) decodeSpan(backdrop, 16);

    parallelBands(height_, [&](int y0, int y1) {
      if (options_.cancel && *options_.cancel) return;
      thread_local Scratch scratch;
      std::vector<const float*> bands(stages.size(), nullptr);
      std::vector<std::ptrdiff_t> strides(stages.size(), 0);
      for (std::size_t s = 0; s < stages.size(); ++s) {
        const RowMaker& base = stages[s].pass->base();
        if (base.makesSpans() || base.stored(y0)) continue;
        strides[s] = paddedRow(width_, base.channels());
        float* buffer = scratch.band(s, static_cast<std::size_t>(strides[s]) * kBandRows);
        base.rows(y0, y1, buffer, strides[s]);
        bands[s] = buffer;
      }
      alignas(128) float sum[2][(kSpanStep + kSpanPadding) * 4];
      alignas(128) float made[(kSpanStep + kSpanPadding) * 4];
      alignas(128) float in[(kSpanStep + kSpanPadding) * 4];
      for (int y = y0; y < y1; y += 2) {
        const int rows = std::min(2, y1 - y);
        for (int x0 = 0; x0 < width_; x0 += kSpanStep) {
          const int n = std::min(kSpanStep, width_ - x0);
          for (int r = 0; r < rows; ++r) {
            float* total = sum[r];
            if (!covered) fillRgba(backdrop, n, total);
            for (std::size_t s = 0; s < stages.size(); ++s) {
              const Stage& stage = stages[s];
              const RowMaker& base = stage.pass->base();
              float* target = s == 0 && covered ? total : made;
              const float* from = in;
              if (bands[s])
                from = bands[s] + (y + r - y0) * strides[s] + static_cast<std::ptrdiff_t>(x0) * base.channels();
              else if (const float* row = base.stored(y + r))
                from = row + static_cast<std::ptrdiff_t>(x0) * base.channels();
              else
                base.span(y + r, x0, n, in);
              stage.pass->finish(from, n, x0, y + r, in, target);
              if (scene_.linearLight) decodeSpan(target, n);
              if (target == made) blendSpan(stage.blend, made, stage.opacity, total, n);
            }
            if (scene_.linearLight) encodeSpan(total, n);
          }
          const float* both[2] = {sum[0], sum[1]};
          sink.take(y, rows, x0, n, both);
        }
      }
    });
  });
}

}  // namespace oa
