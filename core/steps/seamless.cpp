// Make seamless: what lies within the frame becomes a tile whose ends meet, and goes on without an end.
#include <algorithm>
#include <cmath>
#include <vector>

#include "base/parallel.h"
#include "fields/field_params.h"
#include "image/grey.h"
#include "image/reduced.h"
#include "image/rolled.h"
#include "image/sampling.h"
#include "image/tiled.h"
#include "steps/step.h"

namespace oa {
namespace {

ParamSpec cutOnly(ParamSpec spec) {
  spec.shownWhen = ShownWhen{"hide", {"cut"}};
  return spec;
}

ParamSpec travel() {
  ParamSpec spec = field_params::travel();
  spec.help = "Whole tiles that it moves within a lap, to the right and down; negative goes back. A tile is as large as the frame.";
  return spec;
}

const std::vector<ParamSpec>& params() {
  static const std::vector<ParamSpec> list{
      field_params::meet("both"),
      {.id = "hide",
       .label = "Joint",
       .help = "The ends are covered by what is whole there once it is rolled round by half: along a cut where both differ least, or "
               "faded into each other.",
       .type = ParamType::Choice,
       .base = std::string("cut"),
       .rule = LoopRule::Fixed,
       .choices = {"cut", "faded"}},
      {.id = "band",
       .label = "Reach",
       .help = "How far from an end the cover may reach, as a share of the frame.",
       .base = 0.35,
       .min = 0.02,
       .max = 0.5,
       .unit = Unit::Share,
       .rule = LoopRule::Fixed},
      cutOnly(field_params::softCut(0.6)),
      field_params::evenLight(),
      travel(),
  };
  return list;
}

SeamSettings settingsOf(const Values& values) {
  return seamAlong(values.choice("meet"), values.choice("hide") == "cut", values.number("band"), values.number("soft"),
                   values.number("even"));
}

std::optional<SeamSettings> ends(std::span<const Param> own) { return settingsOf(Values(params(), own, {})); }

// Cuts are looked for in small pictures of the frame, the same however finely it is seen; and in several moments together, so that they
// stay where they are while the picture moves.
constexpr double kSketch = 320;
constexpr int kMoments = 4;

struct PixelSize {
  int width;
  int height;
};
double longerSide(const PlaneView& view) { return std::max(view.frameWidth, view.frameHeight); }
// The frame in so many pixels for one of the plane.
PixelSize frameAt(const PlaneView& view, double scale) {
  return {std::max(1, static_cast<int>(std::lround(view.frameWidth * scale))),
          std::max(1, static_cast<int>(std::lround(view.frameHeight * scale)))};
}
PixelSize sketchSize(const PlaneView& view) { return frameAt(view, std::min(1.0, kSketch / longerSide(view))); }

PlaneView frameIn(const PlaneView& view, PixelSize size) {
  PlaneView frame;
  frame.width = size.width;
  frame.height = size.height;
  frame.frameWidth = view.frameWidth;
  frame.frameHeight = view.frameHeight;
  frame.scale = size.width / view.frameWidth;
  return frame;
}

// As finely as the view shows it, within what can be held.
PixelSize tileSize(const PlaneView& view) {
  const double finest = std::min(std::hypot(view.xx, view.yx), std::hypot(view.xy, view.yy));
  return frameAt(view, std::min(view.scale / std::max(1e-9, finest), std::max(1.0, 4096 / longerSide(view))));
}

struct Tiled {
  Tiling tiling;
  Plane plane;
};

// The tile laid over the view, as far as it has gone on.
Tiled tiledOver(const StepContext& context, const RolledEnds& ends, const Plane& picture, bool opaque) {
  const PlaneView& view = context.view();
  const SeamSettings settings = settingsOf(context);
  Tiled made;
  Tiling& t = made.tiling;
  t.axes[0] = {settings.across ? TileAxis::Kind::Repeat : TileAxis::Kind::Mirror, picture.width(), 0};
  t.axes[1] = {settings.down ? TileAxis::Kind::Repeat : TileAxis::Kind::Mirror, picture.height(), 0};
  const Point travel = context.point("travel");
  const double done = context.progress("travel");
  const double gone[2] = {travel.x * done * (settings.across ? 1 : 2), travel.y * done * (settings.down ? 1 : 2)};
  const double across = picture.width() / view.frameWidth;
  const double down = picture.height() / view.frameHeight;
  t.to = withWholeSteps(planeOf(view).then({across, 0, -0.5 - gone[0] * picture.width(), 0, down, -0.5 - gone[1] * picture.height()}));
  t.box = {0, 0, view.width, view.height};
  t.opaque = opaque;
  // Written where it is read from, in one go.
  made.plane = Plane(picture.width() + 2 * kTileBorder, picture.height() + 2 * kTileBorder, 4);
  const RolledRows rows(ends, picture);
  parallelBands(picture.height(), [&](int y0, int y1) {
    for (int y = y0; y < y1; ++y) rows.row(y, made.plane.row(y + kTileBorder) + std::ptrdiff_t{kTileBorder} * 4);
  });
  surround(made.plane, picture.width(), picture.height(), {t.axes[0].edge(), t.axes[1].edge()}, kTileBorder);
  return made;
}

Plane pictureOf(const RowMaker& rows, PixelSize size) {
  Plane made = wholePlane(rows, size.width, size.height);
  if (made.channels() == 4) return made;
  Plane picture(size.width, size.height, 4);
  parallelBands(size.height, [&](int y0, int y1) {
    for (int y = y0; y < y1; ++y) greyToRgba(made.row(y), size.width, picture.row(y));
  });
  return picture;
}

std::shared_ptr<const RowMaker> make(const StepContext& context, const Input& input) {
  const PlaneView& view = context.view();
  const PixelSize small = sketchSize(view);
  const Moment now = input.moment();
  std::vector<Plane> sketches;
  std::int64_t before = -1;
  for (int k = 0; k < kMoments; ++k) {
    const std::int64_t frame = now.frames * k / kMoments;
    if (frame != before) sketches.push_back(pictureOf(*input.pull(frameIn(view, small), now.at(frame)), small));
    before = frame;
  }
  const PixelSize size = tileSize(view);
  const auto rows = input.pull(frameIn(view, size));
  const auto made =
      std::make_shared<const Tiled>(tiledOver(context, RolledEnds(sketches, settingsOf(context)), pictureOf(*rows, size), rows->opaque()));
  return tiledRows(made->tiling, made->plane.pixels(), made, view.width);
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  const PlaneView& view = context.view();
  const auto picture = [&](const ReferenceField& from, PixelSize size) {
    Plane plane(size.width, size.height, 4);
    const PlaneView frame = frameIn(view, size);
    for (int y = 0; y < size.height; ++y)
      for (int x = 0; x < size.width; ++x) {
        const Point at = view.pixel(frame.place(x, y));
        const ReferencePixel p = from(static_cast<int>(std::lround(at.x)), static_cast<int>(std::lround(at.y)));
        for (std::size_t c = 0; c < 4; ++c)
          plane.row(y)[x * 4 + static_cast<int>(c)] = static_cast<float>(p.channels == 4 ? p.v[c]
                                                                         : c == 3        ? 1.0
                                                                                         : std::clamp(p.v[0], 0.0, 1.0));
      }
    return plane;
  };
  std::vector<Plane> sketches;
  for (int k = 0; k < kMoments; ++k) sketches.push_back(picture(input.at(k, kMoments), sketchSize(view)));
  const auto made =
      std::make_shared<const Tiled>(tiledOver(context, RolledEnds(sketches, settingsOf(context)), picture(input, tileSize(view)), false));
  return [made](int x, int y) { return ReferencePixel{4, plainTilePixel(made->tiling, made->plane.pixels(), {}, x, y)}; };
}

}  // namespace

const StepSpec& seamlessStep() {
  static const StepSpec spec{.id = "seamless",
                             .title = "Make seamless",
                             .group = "bend",
                             .help = "Makes the ends of what lies within the frame meet, so that it goes on and travels without an edge.",
                             .kind = StepKind::Area,
                             .params = params(),
                             .ends = ends,
                             .area = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
