// Titles: a still one over a moving loop, two hundred letters in motion, many of them from a table.
#include <QGuiApplication>
#include <QImage>
#include <QPainter>
#include <QPainterPath>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <vector>

#include "edit/passages.h"
#include "media/export.h"
#include "media/movie_writer.h"
#include "ratios.h"
#include "render/frames.h"
#include "scene/run.h"
#include "titles/title_table.h"

namespace {

using namespace oa;

constexpr int kWidth = 1920;
constexpr int kHeight = 1080;

Scene ground(int frames) {
  Scene scene;
  scene.frames = frames;
  Layer fog = newLayer(*findStep("noise"), "Fog");
  fog.recipe.push_back(newStep(*findStep("levels")));
  fog.recipe.push_back(newStep(*findStep("colourmap")));
  scene.layers = {fog};
  return scene;
}

void set(Layer& layer, const char* id, Value value) {
  RecipeStep& source = layer.recipe.front();
  Param& param = source.params[static_cast<std::size_t>(findParam(source.spec->params, id))];
  param.base = param.motion.far = std::move(value);
}

Layer words(const std::string& text, double size) {
  Layer layer = newLayer(*findStep("words"), "Words");
  set(layer, "text", Text{text});
  set(layer, "font", Text{"Cabin"});
  set(layer, "size", size);
  return layer;
}

// One frame after the other of a scene that is kept open.
class Frames {
 public:
  explicit Frames(const Scene& scene, int threads = 1) : renderer_(scene, kWidth, kHeight, {.threads = threads, .manyFrames = true}) {
    (*this)(), (*this)(), (*this)();
  }
  void operator()() {
    renderInto(renderer_, next_++, false, frame_);
    bench::keep(frame_.y.data());
  }

 private:
  Renderer renderer_;
  FrameYuv frame_;
  std::int64_t next_ = 0;
};

void stillTitle() {
  const Scene alone = ground(120);
  Scene titled = alone;
  Layer title = words("Harbour Days\nFriday, from six", 120);
  set(title, "order", std::string("together"));
  titled.layers.push_back(title);
  Frames loop(alone);
  Frames both(titled);
  bench::report("a still title over a moving loop, against the loop alone", bench::ratio([&] { both(); }, [&] { loop(); }, 16), 1.05,
                false);
}

void movingLetters() {
  std::string said;
  for (int i = 0; i < 10; ++i) said += i == 0 ? "come to the quay now" : "\nlanterns on a line!!";
  const Scene alone = ground(120);
  Scene titled = alone;
  Layer letters = words(said, 86);
  for (const char* id : {"offset", "letterTurn"}) {
    RecipeStep& source = letters.recipe.front();
    Param& param = source.params[static_cast<std::size_t>(findParam(source.spec->params, id))];
    param.motion.kind = MotionKind::Swing;
    param.motion.far = id[0] == 'o' ? Value(Point{12, 20}) : Value(14.0);
  }
  titled.layers.push_back(letters);
  QFont font(QStringLiteral("Cabin"));
  font.setPixelSize(86);
  font.setWeight(QFont::Bold);
  std::vector<std::pair<QPointF, QPainterPath>> paths;
  const QFontMetricsF metrics(font);
  QPointF pen(500, 120);
  for (const char c : said) {
    if (c == '\n') {
      pen = {500, pen.y() + 100};
      continue;
    }
    QPainterPath path;
    path.addText(0, 0, font, QString(QLatin1Char(c)));
    paths.emplace_back(pen, path);
    pen.rx() += metrics.horizontalAdvance(QLatin1Char(c));
  }
  // On a picture that is there already, as here the letters go on a picture that is made anyway.
  QImage image(kWidth, kHeight, QImage::Format_ARGB32_Premultiplied);
  image.fill(Qt::black);
  int moment = 0;
  const auto paint = [&] {
    ++moment;
    QPainter p(&image);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(Qt::NoPen);
    p.setBrush(QColor(247, 231, 200));
    for (std::size_t i = 0; i < paths.size(); ++i) {
      const double way = std::sin(6.2832 * (moment / 300.0 + static_cast<double>(i) / 200));
      p.resetTransform();
      p.translate(paths[i].first + QPointF(12, 20) * way);
      p.rotate(14 * way);
      p.drawPath(paths[i].second);
    }
  };
  // As the program draws them, on two threads, and on one.
  for (const int threads : {2, 1}) {
    Frames loop(alone, threads);
    Frames both(titled, threads);
    double without = 1e9;
    double with = 1e9;
    double painted = 1e9;
    for (int i = 0; i < 24; ++i) {
      without = std::min(without, bench::quickest([&] { loop(); }, 1));
      with = std::min(with, bench::quickest([&] { both(); }, 1));
      painted = std::min(painted, bench::quickest(paint, 1));
    }
    const double ratio = painted / std::max(1e-6, with - without);
    std::printf("  (painted %.2f ms, loop %.2f ms, with letters %.2f ms)\n", painted * 1e3, without * 1e3, with * 1e3);
    if (threads == 2)
      bench::report("QPainter's paths on a picture / what 200 moving letters add to a frame, two threads", ratio, 5, true);
    else
      std::printf("  (the same on one thread: %.2f)\n", ratio);
  }
}

// The same numbers for fewer titles: what is done again for each of them is what its encoder costs, and little more.
void table() {
  constexpr int kRows = 6;
  Scene scene = ground(24);
  Layer title = words("{name}", 150);
  scene.layers.push_back(title);
  scene.table.columns = {"name"};
  for (int i = 0; i < kRows; ++i) scene.table.rows.push_back({"Title " + std::to_string(i)});
  const auto folder = std::filesystem::temp_directory_path();
  const auto pathOf = [&](int i) { return (folder / ("over-again-bench-" + std::to_string(i) + ".mp4")).string(); };
  ExportSettings settings;
  settings.width = kWidth;
  settings.height = kHeight;
  const auto make = [&](int i) {
    settings.path = pathOf(i);
    if (!exportScene(filled(scene, scene.table, static_cast<std::size_t>(i)), settings, {})) std::puts("export failed");
  };
  std::vector<FrameYuv> frames(static_cast<std::size_t>(scene.frames));
  Renderer renderer(scene, kWidth, kHeight);
  for (int k = 0; k < scene.frames; ++k) renderInto(renderer, k, false, frames[static_cast<std::size_t>(k)]);
  const auto encode = [&] {
    auto file = OutputFile::begin(pathOf(0), false);
    MovieSettings movie;
    movie.width = kWidth;
    movie.height = kHeight;
    movie.rate = scene.rate;
    movie.stretches = {{0, scene.frames, 1}};
    auto writer = MovieWriter::open(*file, movie);
    for (const FrameYuv& frame : frames)
      if (!(*writer)->add(frame)) std::puts("encoding failed");
    if (!(*writer)->finish()) std::puts("encoding failed");
  };
  const auto all = [&] {
    for (int i = 0; i < kRows; ++i) make(i);
  };
  const auto least = [&] {
    make(0);
    for (int i = 1; i < kRows; ++i) encode();
  };
  bench::report("titles from a table, against one and the encoder for the others", bench::ratio(all, least, 2), 1.3, false);
  for (int i = 0; i < kRows; ++i) std::filesystem::remove(pathOf(i));
}

}  // namespace

int main(int argc, char** argv) {
  QGuiApplication application(argc, argv);
  const std::string only = argc > 1 ? argv[1] : "";
  for (const auto& [name, measure] : {std::pair{"title", &stillTitle}, std::pair{"letters", &movingLetters}, std::pair{"table", &table}})
    if (only.empty() || only == name) measure();
  return oa::bench::allMet() ? 0 : 1;
}
