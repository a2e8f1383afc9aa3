// A picture, drawing or clip from a file: once, or as tiles without an end.
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <optional>
#include <vector>

#include "base/affine.h"
#include "base/numbers.h"
#include "base/random.h"
#include "fields/field_params.h"
#include "image/same_rows.h"
#include "image/tiled.h"
#include "steps/step.h"
#include "store/media_store.h"
#include "store/sample.h"
#include "store/tile_faces.h"

namespace oa {

const StepSpec& pictureStep();

namespace {

ParamSpec varied(ParamSpec spec) {
  spec.shownWhen = ShownWhen{"vary", {}, 0};
  return spec;
}

// Only a picture whose ends are made to meet has it.
ParamSpec mended(ParamSpec spec) {
  spec.shownWhen = ShownWhen{"ends", {"cut", "faded"}, 0, {}, "file", {"still"}};
  return spec;
}

// Only a clip or animated picture that goes round has it.
ParamSpec moving(ParamSpec spec, std::vector<std::string_view> ways) {
  spec.shownWhen = ShownWhen{"file", {"moving"}};
  if (!ways.empty()) {
    spec.shownWhen->with = "way";
    spec.shownWhen->withChoices = std::move(ways);
  }
  return spec;
}

// A length of the clip's own time.
ParamSpec seconds(std::string_view id, std::string_view label, std::string_view help, double most, double sliderMost) {
  return {.id = id,
          .label = label,
          .help = help,
          .base = 0.0,
          .min = 0,
          .max = most,
          .sliderMin = 0,
          .sliderMax = sliderMost,
          .unit = Unit::Seconds,
          .rule = LoopRule::Fixed};
}

// Only what repeats has it.
ParamSpec tiled(ParamSpec spec) {
  spec.shownWhen = ShownWhen{"across", {"repeat", "mirror"}, 0, "down"};
  return spec;
}

constexpr std::string_view kOthers[] = {"file2", "file3", "file4"};

ParamSpec another(std::string_view id, std::string_view label) {
  return {
      .id = id,
      .label = label,
      .help = "Another picture that tiles show, drawn at random, within a tile of the first one's size. Clips show their first picture.",
      .type = ParamType::File,
      .base = MediaRef{},
      .rule = LoopRule::Fixed};
}

ParamSpec variedOrJumping(ParamSpec spec) {
  spec.shownWhen = ShownWhen{"vary", {}, 1, "held"};
  return spec;
}

ParamSpec travel() {
  ParamSpec spec = field_params::begins(field_params::travel(), MotionKind::Turn);
  spec.help =
      "Whole tiles that it moves within a lap, to the right and down; negative goes back. A mirrored tile counts with its mirror image, a "
      "varied one with all until they repeat; staggered rows and columns go to the next place that is alike.";
  return spec;
}

ParamSpec jumps() {
  ParamSpec spec = field_params::held(
      "Frames after which it jumps to another place, whole pixels away; 0 for never. Only what lies beside itself can jump.");
  spec.label = "Jump every";
  spec.base = 0.0;
  return spec;
}

const std::vector<ParamSpec>& params() {
  namespace fp = field_params;
  static const std::vector<std::string_view> kRound{"round", "there and back"};
  static const std::vector<ParamSpec> list{
      {.id = "file",
       .label = "File",
       .help = "The picture, drawing or clip that is shown. It stays where it is; the scene keeps the way to it.",
       .type = ParamType::File,
       .base = MediaRef{},
       .rule = LoopRule::Fixed},
      moving({.id = "way",
              .label = "Plays",
              .help = "Round and round; there and back; or through, once and at its own speed, as footage that does not loop: then what is "
                      "handed over lasts as long as it does.",
              .type = ParamType::Choice,
              .base = std::string("round"),
              .rule = LoopRule::Fixed,
              .choices = {"round", "there and back", "through"}},
             {}),
      moving({.id = "plays",
              .label = "Times a lap",
              .help = "How often it plays within a lap.",
              .type = ParamType::Integer,
              .base = 1.0,
              .min = 1,
              .max = 1000,
              .sliderMin = 1,
              .sliderMax = 12,
              .unit = Unit::Count,
              .rule = LoopRule::Progress,
              .defaultLaps = 1},
             kRound),
      moving(seconds("from", "From", "Where in the clip it begins.", kMostMediaSeconds, 30), {}),
      moving(seconds("to", "To", "Where it ends; 0 for the clip's own end.", kMostMediaSeconds, 30), {}),
      moving(seconds("overlap", "Ends meet",
                     "How long its end fades into its beginning; it becomes shorter by as much. 0: it goes over from picture to picture.",
                     600, 4),
             {"round"}),
      moving({.id = "stands",
              .label = "Stands",
              .help = "Share of each play in which its last picture stands still.",
              .base = 0.0,
              .min = 0,
              .max = 0.95,
              .unit = Unit::Share,
              .rule = LoopRule::Fixed},
             kRound),
      moving({.id = "between",
              .label = "Mix between",
              .help = "Slowed down, it shows mixtures of two pictures in place of one picture for long.",
              .type = ParamType::Toggle,
              .base = false,
              .rule = LoopRule::Fixed},
             kRound),
      {.id = "fit",
       .label = "Size",
       .help = "Pixel for pixel, or made to lie wholly within the frame, to cover it, or to fill it exactly, stretched.",
       .type = ParamType::Choice,
       .base = std::string("natural"),
       .rule = LoopRule::Fixed,
       .choices = {"natural", "fit", "cover", "stretch"}},
      {.id = "at",
       .label = "Where",
       .help = "Which part of the frame it lies against: 0 is the left or upper side, 1 the right or lower one.",
       .type = ParamType::Point,
       .base = Point{0.5, 0.5},
       .min = -4,
       .max = 5,
       .sliderMin = 0,
       .sliderMax = 1},
      {.id = "ends",
       .label = "Ends",
       .help = "Makes its ends meet: as it is, laid over each other and cut where they differ least, or faded into each other. It becomes "
               "smaller by as much.",
       .type = ParamType::Choice,
       .base = std::string("kept"),
       .rule = LoopRule::Fixed,
       .choices = {"kept", "cut", "faded"},
       .shownWhen = ShownWhen{"file", {"still"}}},
      mended(fp::meet("across")),
      mended({.id = "band",
              .label = "Overlap",
              .help = "Share of the picture that its ends are laid over each other.",
              .base = 0.2,
              .min = 0.02,
              .max = 0.5,
              .unit = Unit::Share,
              .rule = LoopRule::Fixed}),
      mended(fp::softCut(0.2)),
      mended(fp::evenLight()),
      {.id = "across",
       .label = "Beside it",
       .help = "What lies to its left and right: nothing, its edge drawn out, itself again, or itself mirrored.",
       .type = ParamType::Choice,
       .base = std::string("repeat"),
       .rule = LoopRule::Fixed,
       .choices = {"nothing", "edge", "repeat", "mirror"}},
      {.id = "down",
       .label = "Over, under",
       .help = "What lies above and below it: nothing, its edge drawn out, itself again, or itself mirrored.",
       .type = ParamType::Choice,
       .base = std::string("repeat"),
       .rule = LoopRule::Fixed,
       .choices = {"nothing", "edge", "repeat", "mirror"}},
      tiled({.id = "gap",
             .label = "Gap",
             .help = "Room between tiles, where there is nothing.",
             .base = 0.0,
             .min = 0,
             .max = 8192,
             .sliderMin = 0,
             .sliderMax = 400,
             .unit = Unit::Pixels}),
      tiled({.id = "stagger",
             .label = "Stagger",
             .help = "Each row of tiles is moved on against the one above it, or each column against the one to its left.",
             .type = ParamType::Choice,
             .base = std::string("none"),
             .rule = LoopRule::Fixed,
             .choices = {"none", "rows", "columns"}}),
      {.id = "shift",
       .label = "Shift",
       .help = "By which share of a tile.",
       .base = 0.5,
       .min = 0,
       .max = 1,
       .unit = Unit::Share,
       .rule = LoopRule::Fixed,
       .shownWhen = ShownWhen{"stagger", {"rows", "columns"}}},
      tiled(travel()),
      tiled({.id = "vary",
             .label = "Varied tiles",
             .help = "Tiles differ, so that a row of them does not look stamped.",
             .type = ParamType::Toggle,
             .base = false,
             .rule = LoopRule::Fixed}),
      varied({.id = "mirrored",
              .label = "Mirrored",
              .help = "Which share of the tiles is seen from behind.",
              .base = 0.5,
              .min = 0,
              .max = 1,
              .unit = Unit::Share,
              .rule = LoopRule::Fixed}),
      varied(
          {.id = "moved",
           .label = "Moved",
           .help =
               "How far the picture is moved on within its tile, at most, as a share of it; what leaves on one side comes in on the other.",
           .base = 0.0,
           .min = 0,
           .max = 1,
           .unit = Unit::Share,
           .rule = LoopRule::Fixed}),
      varied({.id = "tinted",
              .label = "Light, dark",
              .help = "How much lighter or darker a tile is than the others, at most.",
              .base = 0.15,
              .min = 0,
              .max = 1,
              .unit = Unit::Share,
              .rule = LoopRule::Fixed}),
      varied(another("file2", "Second")),
      varied(another("file3", "Third")),
      varied(another("file4", "Fourth")),
      varied({.id = "period",
              .label = "Repeats after",
              .help = "Tiles across and down after which all is as before: travel goes on by so many.",
              .type = ParamType::Integer,
              .base = 6.0,
              .min = 1,
              .max = 64,
              .unit = Unit::Count,
              .rule = LoopRule::Fixed}),
      tiled(jumps()),
      {.id = "turned",
       .label = "Turned too",
       .help = "Each jump also turns it by a quarter, a half or three quarters, or turns it over.",
       .type = ParamType::Toggle,
       .base = false,
       .rule = LoopRule::Fixed,
       .shownWhen = ShownWhen{"held", {}, 1}},
      variedOrJumping(fp::seed("Another number, other variations and other jumps.")),
  };
  return list;
}

TileAxis::Kind kindOf(std::string_view choice) {
  if (choice == "edge") return TileAxis::Kind::Edge;
  if (choice == "repeat") return TileAxis::Kind::Repeat;
  return choice == "mirror" ? TileAxis::Kind::Mirror : TileAxis::Kind::Nothing;
}

std::optional<SeamSettings> seamOf(const Values& context) {
  const std::string_view ends = context.choice("ends");
  // A cut that runs elsewhere in every picture would flicker.
  if (ends == "kept" || context.file("file").moving()) return std::nullopt;
  return seamAlong(context.choice("meet"), ends == "cut", context.number("band"), context.number("soft"), context.number("even"));
}

// The picture's own size in pixels of the scene, with its ends made to meet if they are.
Point naturalSize(const StepContext& context) {
  const MediaRef& ref = context.file("file");
  const bool known = ref.width > 0 && ref.height > 0;
  const int width = known ? ref.width : kSampleWidth;
  const int height = known ? ref.height : kSampleHeight;
  const auto seam = seamOf(context);
  return {static_cast<double>(seam && seam->across ? seamlessSize(width, seam->band) : width),
          static_cast<double>(seam && seam->down ? seamlessSize(height, seam->band) : height)};
}

// The rectangle that it lies in, in pixels of the scene.
struct Box {
  double left, top, width, height;
};
Box boxOf(const StepContext& context) {
  const PlaneView& view = context.view();
  const Point own = naturalSize(context);
  const std::string_view fit = context.choice("fit");
  Box box{0, 0, own.x, own.y};
  const double across = view.frameWidth / own.x;
  const double down = view.frameHeight / own.y;
  if (fit == "stretch") {
    box.width = view.frameWidth;
    box.height = view.frameHeight;
  } else if (fit != "natural") {
    // In whole pixels, so that a picture that moves by them stays as sharp as it is.
    const double times = fit == "fit" ? std::min(across, down) : std::max(across, down);
    box.width = std::max(1.0, std::round(own.x * times));
    box.height = std::max(1.0, std::round(own.y * times));
  }
  const Point at = context.point("at");
  box.left = (view.frameWidth - box.width) * at.x;
  box.top = (view.frameHeight - box.height) * at.y;
  if (fit == "natural") {
    box.left = std::round(box.left);
    box.top = std::round(box.top);
  }
  return box;
}

// The pictures of a clip that are shown at this moment.
ClipMix clipMixOf(const StepContext& context, const MovingInfo& info) {
  const std::string_view way = context.choice("way");
  const ClipPlay play{context.number("from"),   context.number("to"),      way == "there and back",
                      context.number("stands"), context.number("overlap"), context.toggle("between")};
  if (way == "through") return clipThrough(info, play, context.runSeconds());
  return clipAt(info, play, fract(context.number("plays") * context.progress("plays")));
}

// In at most its own size, its edges as they are wanted.
std::shared_ptr<const TilePicture> tileOf(const StepContext& context, int width, int height, EdgePair edges, bool light) {
  const MediaRef& ref = context.file("file");
  MediaStore& store = MediaStore::shared();
  if (light) return store.lightTile(ref, width, height, edges, 1, seamOf(context));
  if (!ref.moving()) return store.tile(ref, width, height, edges, seamOf(context));
  const auto clip = store.clip(ref);
  return store.clipTile(ref, clip ? clipMixOf(context, (*clip)->info()) : ClipMix{}, width, height, edges);
}

struct Settings {
  std::shared_ptr<const TilePicture> tile;
  Tiling tiling;
  std::vector<TileFace> others;
};

// The pictures that varied tiles show beside the first.
std::vector<MediaRef> othersOf(const StepContext& context) {
  std::vector<MediaRef> refs;
  for (const std::string_view id : kOthers)
    if (const MediaRef& ref = context.file(id); !ref.empty()) refs.push_back(ref);
  return refs;
}

// Turned about the middle of the frame, as a jump says.
Affine jumpTurn(const StepContext& context, std::uint64_t still, std::uint64_t seed) {
  const PlaneView& view = context.view();
  const auto way = static_cast<int>(randomUnit(seed * 4 + 3, still * 3 + 2) * 8);
  const double turn = way % 4 * std::numbers::pi / 2;
  const double flip = way >= 4 ? -1 : 1;
  const Affine about{std::cos(turn) * flip, -std::sin(turn), 0, std::sin(turn) * flip, std::cos(turn), 0};
  const Point middle{view.frameWidth / 2, view.frameHeight / 2};
  const Point moved = about(middle);
  return {about.xx, about.xy, middle.x - moved.x, about.yx, about.yy, middle.y - moved.y};
}

Settings settingsOf(const StepContext& context, bool light = false) {
  const PlaneView& view = context.view();
  const MediaRef& ref = context.file("file");
  const Box box = boxOf(context);
  Settings made;
  Tiling& s = made.tiling;
  s.box = {0, 0, 0, 0};
  s.axes[0].kind = kindOf(context.choice("across"));
  s.axes[1].kind = kindOf(context.choice("down"));
  const auto seed = static_cast<std::uint64_t>(context.number("seed"));

  // From the view's pixels to the plane, and on to the picture, whose own sides are 0 to 1.
  Affine toPlane = planeOf(view);
  const bool tiled = s.axes[0].tiled() || s.axes[1].tiled();
  const bool jumps = tiled && context.integer("held") > 0;
  const auto still = static_cast<std::uint64_t>(context.progress("held"));
  if (jumps && context.toggle("turned")) toPlane = toPlane.then(jumpTurn(context, still, seed));
  const Affine toPicture = toPlane.then({1 / box.width, 0, -box.left / box.width, 0, 1 / box.height, -box.top / box.height});

  // As large as it is seen, and no larger than it is.
  const double fineX = 1 / std::max(1e-12, std::hypot(toPicture.xx, toPicture.xy));
  const double fineY = 1 / std::max(1e-12, std::hypot(toPicture.yx, toPicture.yy));
  const bool drawing = !ref.moving() && !seamOf(context) && MediaStore::shared().isDrawing(ref);
  const Point own = naturalSize(context);
  const double mostX = drawing ? std::min(8192.0, std::max(own.x, 4096.0)) : own.x;
  const double mostY = drawing ? std::min(8192.0, std::max(own.y, 4096.0)) : own.y;
  const double gap = tiled ? context.number("gap") : 0;
  EdgePair edges;
  for (int k = 0; k < 2; ++k) s.axes[k].gap = s.axes[k].tiled() ? gap : 0;
  edges = {s.axes[0].edge(), s.axes[1].edge()};
  s.light = light;
  made.tile = tileOf(context, pixelsFor(fineX, mostX), pixelsFor(fineY, mostY), edges, light);
  if (!made.tile) return made;
  s.axes[0].size = made.tile->width;
  s.axes[1].size = made.tile->height;
  s.axes[0].gap *= made.tile->width / box.width;
  s.axes[1].gap *= made.tile->height / box.height;

  const bool vary = tiled && context.toggle("vary");
  if (vary && !light) made.others = facesWithin(*made.tile, othersOf(context), edges);
  s.variety = {vary,
               context.number("mirrored"),
               context.number("moved"),
               context.number("tinted"),
               static_cast<int>(made.others.size()) + 1,
               context.integer("period"),
               seed};
  if (vary && light) {
    auto faces = facesInLight(*made.tile, ref, seamOf(context), othersOf(context), edges, s.variety);
    if (!faces) return {};
    made.others = std::move(*faces);
  }
  const std::string_view stagger = context.choice("stagger");
  if (stagger == "rows" && s.axes[0].tiled() && s.axes[1].tiled()) s.stagger = 1;
  if (stagger == "columns" && s.axes[0].tiled() && s.axes[1].tiled()) s.stagger = 2;
  s.shift = s.stagger ? context.number("shift") : 0;

  // Travel, in tiles: by what closes, and where rows are staggered on to the next place that is alike.
  const Point travel = context.point("travel");
  const double whole[2] = {travel.x, travel.y};
  double unit[2];
  double moved[2] = {0, 0};
  for (int k = 0; k < 2; ++k) unit[k] = (s.axes[k].kind == TileAxis::Kind::Mirror ? 2 : 1) * (s.variety.on ? s.variety.period : 1);
  for (int k = 0; k < 2; ++k)
    if (s.axes[k].tiled()) moved[k] = whole[k] * unit[k];
  if (s.stagger) {
    const int along = s.stagger - 1;
    moved[along] += std::remainder(moved[1 - along] * s.shift, unit[along]);
  }
  const double done = context.progress("travel");
  for (int k = 0; k < 2; ++k) {
    moved[k] *= done;
    if (!jumps || !s.axes[k].tiled()) continue;
    // By whole pixels of the scene: jumps between them would make it now sharper, now softer, and it would flicker.
    const double pixels = (k == 0 ? box.width : box.height) + gap;
    moved[k] += std::floor(unit[k] * randomUnit(seed * 4 + 3, still * 3 + static_cast<std::uint64_t>(k)) * pixels) / pixels;
  }
  s.to = withWholeSteps(toPicture.then({static_cast<double>(made.tile->width), 0, -0.5 - moved[0] * s.axes[0].period(), 0,
                                        static_cast<double>(made.tile->height), -0.5 - moved[1] * s.axes[1].period()}));

  const auto endless = [&](int k) { return s.axes[k].kind != TileAxis::Kind::Nothing; };
  // Of what goes on without an end along a side, as far as anybody sees.
  const Affine toView = toPlane.inverse();
  const auto around = [&](double by) {
    constexpr double kFar = 1e7;
    return pixelsOf(toView, endless(0) ? -kFar : box.left - by, endless(1) ? -kFar : box.top - by,
                    endless(0) ? kFar : box.left + box.width + by, endless(1) ? kFar : box.top + box.height + by);
  };
  const PixelBox all{0, 0, view.width, view.height};
  s.box = endless(0) && endless(1) ? all : around(2).grown(2).within(all);
  const bool solid = gap == 0 && made.tile->opaque && made.others.empty();
  s.opaque = solid && endless(0) && endless(1);
  s.exact = !ref.moving();
  // As far from a side that ends as nothing beyond it is mixed with; in light its last pixel may be part of what is not there.
  const bool upright = (s.to.xy == 0 && s.to.yx == 0) || (s.to.xx == 0 && s.to.yy == 0);
  const double largest = std::max(std::hypot(toView.xx, toView.yx) * box.width / made.tile->width,
                                  std::hypot(toView.xy, toView.yy) * box.height / made.tile->height);
  if (solid && upright && largest < view.width + view.height)
    s.solid = around(0).grown(-3 - static_cast<int>(std::max(4.0, 3 * largest))).within(s.box);
  return made;
}

// A still picture of which the pixels are only copied: so are those that have been decoded.
class Copies final : public SameRows {
 public:
  Copies(const Tiling& tiling, std::shared_ptr<const TilePicture> tile, int width)
      : SameRows(tiledRows(tiling, tile->plane.pixels(), tile, width)), tiling_(tiling), tile_(std::move(tile)), width_(width) {}
  [[nodiscard]] std::shared_ptr<const RowMaker> linear() const override {
    const auto lit = MediaStore::shared().formed(tile_, {.decoded = true});
    return tiledRows(tiling_, lit->plane.pixels(), lit, width_);
  }

 private:
  Tiling tiling_;
  std::shared_ptr<const TilePicture> tile_;
  int width_;
};

std::unique_ptr<RowMaker> make(const StepContext& context) {
  Settings s = settingsOf(context);
  const int width = context.view().width;
  if (!s.tile) return tiledRows(s.tiling, PlanePixels(), nullptr, width);
  const PlanePixels pixels = s.tile->plane.pixels();
  if (!context.file("file").moving() && static_cast<std::ptrdiff_t>(pixels.width) * pixels.height <= kMostFormed) {
    if (isQuarterTurn(s.tiling, pixels)) {
      s.tile = MediaStore::shared().formed(s.tile, {.exchanged = true});
      s.tiling = exchanged(s.tiling);
    }
    if (onlyCopies(s.tiling)) return std::make_unique<Copies>(s.tiling, s.tile, width);
  }
  return tiledRows(s.tiling, s.tile->plane.pixels(), s.tile, width, s.others);
}

// Where tiles that differ lie side by side their edge is as sharp as a pixel: too coarse a step where pixels are few. And a clip is another
// picture every time, which is not made smaller for less than it is read.
std::unique_ptr<RowMaker> light(const StepContext& context) {
  if (context.file("file").moving()) return nullptr;
  const Settings s = settingsOf(context, true);
  if (!s.tile || (s.tiling.variety.on && (s.tiling.axes[0].gap < 2 || s.tiling.axes[1].gap < 2))) return nullptr;
  // What is not there in as many pixels is softened by more of the view's.
  const Affine& to = s.tiling.to;
  constexpr double kLeast = 0.95;
  if (std::hypot(to.xx, to.yx) < kLeast || std::hypot(to.xy, to.yy) < kLeast) return nullptr;
  return tiledRows(s.tiling, s.tile->plane.pixels(), s.tile, context.view().width, s.others);
}

ReferenceField reference(const StepContext& context, ReferenceField) {
  return [s = settingsOf(context)](int x, int y) {
    return s.tile ? ReferencePixel{4, plainTilePixel(s.tiling, s.tile->plane.pixels(), s.others, x, y)} : ReferencePixel{4, {}};
  };
}

std::optional<std::array<double, 4>> extent(const StepContext& context) {
  if (context.choice("across") != "nothing" || context.choice("down") != "nothing") return std::nullopt;
  const Box box = boxOf(context);
  return std::array{box.left, box.top, box.left + box.width, box.top + box.height};
}

TileSize tile(const StepContext& context) {
  const TileAxis::Kind across = kindOf(context.choice("across"));
  const TileAxis::Kind down = kindOf(context.choice("down"));
  const auto tiled = [](TileAxis::Kind kind) { return kind == TileAxis::Kind::Repeat || kind == TileAxis::Kind::Mirror; };
  if (!tiled(across) || !tiled(down) || context.choice("stagger") != "none" || context.integer("held") > 0) return {};
  const Box box = boxOf(context);
  const double gap = context.number("gap");
  const double times = context.toggle("vary") ? context.integer("period") : 1;
  return {(box.width + gap) * times * (across == TileAxis::Kind::Mirror ? 2 : 1),
          (box.height + gap) * times * (down == TileAxis::Kind::Mirror ? 2 : 1), 0};
}

// The tile that is kept for a frame.
double bytes(const StepContext& context) {
  const Point own = naturalSize(context);
  return std::min(own.x * own.y, static_cast<double>(context.view().width) * context.view().height * 2) * 16;
}

std::optional<SeamSettings> ends(std::span<const Param> own) { return seamOf(Values(params(), own, {})); }

double footage(std::span<const Param> params) {
  const auto value = [&](std::string_view id) -> const Value& {
    return params[static_cast<std::size_t>(findParam(pictureStep().params, id))].base;
  };
  const auto& ref = std::get<MediaRef>(value("file"));
  if (!ref.moving() || std::get<std::string>(value("way")) != "through") return 0;
  return playSeconds(ref.seconds, {std::get<double>(value("from")), std::get<double>(value("to"))});
}

}  // namespace

const StepSpec& pictureStep() {
  static const StepSpec spec{
      .id = "picture",
      .title = "Picture or clip",
      .group = "source",
      .help = "A picture, drawing or clip from a file, once or as tiles that go on without an end and travel by whole ones.",
      .kind = StepKind::Source,
      .params = params(),
      .shelf = {.section = "Pictures", .rank = 2},
      .tile = tile,
      .extent = extent,
      .bytes = bytes,
      .footage = footage,
      .ends = ends,
      .source = make,
      .light = light,
      .reference = reference};
  return spec;
}

}  // namespace oa
