// Layers on top of each other.
#pragma once

#include <functional>
#include <memory>
#include <vector>

#include "graph/recipe_pass.h"
#include "image/blend.h"
#include "image/partly_lit.h"

namespace oa {

/// One layer on its way into a composite.
struct Stage {
  std::shared_ptr<const RecipePass> pass;
  BlendMode blend = BlendMode::Normal;
  float opacity = 1;
};

/// Takes finished pixels: premultiplied display-encoded RGBA. Called from several threads, each place of the picture once: `rows`
/// (1 or 2) rows from the even row y, `n` pixels from x0 (a multiple of 64).
using TakePixels = std::function<void(int y, int rows, int x0, int n, const float* const* rgba)>;

class Composite final : public RowMaker {
 public:
  /// Display values are blended as they are; in light, what layers mix is decoded before and encoded after, and with all layers in light
  /// all of it is encoded; throughout, light is handed out as it is.
  enum class Mixing { Display, Light, LightThroughout };
  /// `backdrop` is straight and display-encoded.
  Composite(std::vector<Stage> stages, Colour backdrop, Mixing mixing, int width);

  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] bool opaque() const override { return opaque_; }
  /// How many layers it is made of.
  [[nodiscard]] std::size_t stages() const { return stages_.size(); }
  [[nodiscard]] bool hides(int y, int x0, int n) const override { return hidingStage(y, x0, n) >= 0; }
  [[nodiscard]] bool nothing(int y, int x0, int n) const override;
  [[nodiscard]] PixelBox bounds() const override { return bounds_; }
  [[nodiscard]] bool makesSpans() const override { return spans_; }
  void span(int y, int x0, int n, float* out) const override;
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override;
  [[nodiscard]] std::shared_ptr<const RowMaker> linear() const override;

  /// The rows of a band that begins at an even row and has at most kBandRows, span by span through all layers.
  void band(int y0, int y1, const TakePixels& take) const;

 private:
  struct Shares {
    bool ofOne = false;
    alignas(16) float shown[4] = {0, 0, 0, 1};
    alignas(16) float light[4] = {0, 0, 0, 1};  // what it is in light
  };
  static Shares sharesOf(const RowMaker& rows);
  /// `hides`: all of those pixels are opaque.
  void decode(std::size_t stage, const float* from, float* to, int n, bool hides) const;
  struct Bands;
  /// The topmost layer that hides all below it there; -1: none is known to.
  [[nodiscard]] int hidingStage(int y, int x0, int n) const;
  /// Whether nothing of a layer is seen in these rows.
  [[nodiscard]] bool isHidden(std::size_t stage, int y0, int y1) const;
  [[nodiscard]] bool isSeen(std::size_t stage, int y, int x0, int n) const;
  [[nodiscard]] bool hidesAt(std::size_t stage, int y, int x0, int n) const;
  /// `first`: in place of what is there, not over it.
  void lay(std::size_t stage, int y, int x0, int n, const Bands* bands, bool first, float* total) const;
  struct Partly;
  /// Over it, where only what is mixed is lit.
  void layPartly(std::size_t stage, int y, int x0, int n, const Bands* bands, Partly& partly, float* total) const;
  /// What the lowest is in light there, if it is known; parts count from x0, and reach over whole steps of kSpanPadding.
  void knowLight(int y, int x0, int n, const RowParts& parts, const Bands* bands, Partly& partly) const;
  /// The lowest, where nothing is laid over it.
  void layBelow(int y, int x0, int n, const Bands* bands, Partly& partly, float* total) const;
  [[nodiscard]] RowParts reached(std::size_t stage, int y, int x0, int n) const;
  /// Pixels of a stage before its point steps, where they lie or made at `in`.
  const float* taken(std::size_t stage, int y, int x, int count, const Bands* bands, float* in) const;
  void pixels(int y, int x0, int n, const Bands* bands, float* total) const;

  std::vector<Stage> stages_;
  std::vector<PixelBox> boxes_;                          // what each can reach
  std::vector<std::shared_ptr<const RecipePass>> laid_;  // what of each is laid
  std::shared_ptr<const RecipePass> lowestLight_;        // of the lowest where only what is mixed is lit, or null
  std::vector<Shares> tints_;                            // those that are in one colour, where that is to be decoded
  std::vector<bool> knowsLight_;                         // that is in light, and not decoded
  std::vector<bool> painted_;                            // which lay themselves over what is below
  std::vector<bool> covering_;                           // which may hide what is below
  bool hiding_ = false;                                  // any of them may
  Mixing mixing_;
  bool partly_ = false;  // layers leave much of each other as it is shown: only where they meet they are turned into light and back
  int width_;
  Colour colour_;
  bool covered_ = false;  // the lowest layer hides the backdrop wholly
  bool opaque_ = false;
  bool spans_ = true;
  bool empty_ = false;  // nothing behind the layers
  PixelBox bounds_;
  float backdrop_[16 * 4];
};

}  // namespace oa
