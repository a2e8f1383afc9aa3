// Repeated shapes against a general painter, and against copying memory.
#include <QGuiApplication>
#include <QImage>
#include <QPainter>
#include <cmath>
#include <cstdio>
#include <cstring>
#include <string>
#include <utility>
#include <vector>

#include "base/parallel.h"
#include "base/random.h"
#include "graph/puller.h"
#include "ratios.h"
#include "scene/scene.h"

namespace {

constexpr int kWidth = 1920;
constexpr int kHeight = 1080;

struct Repeat {
  oa::Scene scene;
  oa::Plane plane{kWidth, kHeight, 4};
  int frame = 0;

  Repeat() {
    scene.width = kWidth;
    scene.height = kHeight;
    scene.frames = 300;
    scene.layers.push_back(oa::newLayer(*oa::findStep("repeat"), "Repeat"));
  }
  oa::RecipeStep& step() { return scene.layers[0].recipe[0]; }
  Repeat& set(const char* id, const oa::Value& value) {
    oa::Param& param = step().params[static_cast<std::size_t>(oa::findParam(step().spec->params, id))];
    param.base = param.motion.far = value;
    return *this;
  }
  Repeat& stamp(const char* id, const oa::Value& value, const oa::Value& far = {}) {
    oa::Param& param = step().items[0].params[static_cast<std::size_t>(oa::findParam(step().spec->items->params, id))];
    param.base = param.motion.far = value;
    if (far.index() == value.index() && far != value) {
      param.motion.kind = oa::MotionKind::Swing;
      param.motion.far = far;
    }
    return *this;
  }
  // One whole frame, planning included.
  void make() {
    const oa::Plan plan(scene);
    const oa::Puller puller(plan, nullptr, nullptr);
    const auto rows = puller.result(0, oa::PlaneView::cover(kWidth, kHeight, kWidth, kHeight), {++frame, 300});
    oa::parallelBands(kHeight, [&](int y0, int y1) { rows->rows(y0, y1, plane.row(y0), plane.stride()); });
    oa::bench::keep(plane.row(0));
  }
};

struct Painter {
  QImage image{kWidth, kHeight, QImage::Format_ARGB32_Premultiplied};
  template <class Draw>
  void paint(const Draw& draw) {
    image.fill(Qt::transparent);
    QPainter p(&image);
    p.setRenderHint(QPainter::Antialiasing);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    draw(p);
    p.end();
    oa::bench::keep(image.constBits());
  }
};

double unit(int i, int which) { return oa::randomUnit(static_cast<std::uint64_t>(i), static_cast<std::uint64_t>(which)); }

}  // namespace

int main(int argc, char** argv) {
  qputenv("QT_QPA_PLATFORM", "offscreen");
  QGuiApplication app(argc, argv);
  Painter painter;

  // Half-transparent discs of a radius of 6 to 30 px: sizes go evenly by their logarithm on both sides.
  Repeat discs;
  discs.set("spread", std::string("scattered")).set("even", false).set("count", 5000.0).set("sizeBy", std::log2(std::sqrt(5.0)));
  discs.stamp("size", 2 * std::sqrt(6.0 * 30)).stamp("opacity", 0.5);
  const auto paintDiscs = [&] {
    painter.paint([](QPainter& p) {
      p.setPen(Qt::NoPen);
      p.setBrush(QColor(243, 207, 155, 128));
      for (int i = 0; i < 5000; ++i) {
        const double r = 6 * std::pow(5, unit(i, 2));
        p.drawEllipse(QPointF(unit(i, 0) * kWidth, unit(i, 1) * kHeight), r, r);
      }
    });
  };
  oa::bench::report("QPainter / 5000 half-transparent discs",
                    oa::bench::ratio(
                        paintDiscs, [&] { discs.make(); }, 8),
                    12, true);
  oa::bench::report(
      "one thread / two threads, discs",
      oa::bench::ratio([&] { oa::withThreads(1, [&] { discs.make(); }); }, [&] { oa::withThreads(2, [&] { discs.make(); }); }, 8), 1.6,
      true);

  // A small drawing, turned.
  Repeat drawings;
  drawings.set("spread", std::string("scattered")).set("even", false).set("count", 5000.0).set("turnBy", 180.0);
  drawings.stamp("kind", std::string("picture"))
      .stamp("file", oa::MediaRef{OA_SOURCE_DIR "/demo-data/media/lantern.svg"})
      .stamp("size", 40.0);
  const QImage drawing = [] {
    QImage made(40, 60, QImage::Format_ARGB32_Premultiplied);
    made.fill(QColor(200, 72, 43, 230));
    return made;
  }();
  const QPixmap cached = QPixmap::fromImage(drawing);
  const auto paintDrawings = [&] {
    painter.paint([&](QPainter& p) {
      for (int i = 0; i < 5000; ++i) {
        p.resetTransform();
        p.translate(unit(i, 0) * kWidth, unit(i, 1) * kHeight);
        p.rotate(360 * unit(i, 2) - 180);
        p.drawPixmap(QPointF(-20, -30), cached);
      }
    });
  };
  oa::bench::report("QPainter's pixmap / 5000 copies of a drawing, turned",
                    oa::bench::ratio(
                        paintDrawings, [&] { drawings.make(); }, 6),
                    5, true);

  // Specks against copying the frame.
  Repeat specks;
  specks.set("spread", std::string("scattered")).set("even", false).set("count", 100000.0);
  specks.stamp("size", 2.0);
  oa::Plane from(kWidth, kHeight, 4);
  oa::Plane to(kWidth, kHeight, 4);
  const std::size_t bytes = static_cast<std::size_t>(from.stride()) * kHeight * sizeof(float);
  std::memset(from.row(0), 0, bytes);
  const auto copy = [&] {
    std::memcpy(to.row(0), from.row(0), bytes);
    oa::bench::keep(to.row(0));
  };
  oa::bench::report("100,000 specks of 2 px / copying the frame", oa::bench::ratio([&] { specks.make(); }, copy, 10), 2.5, false);

  // What lies outside costs next to nothing.
  Repeat outside;
  outside.set("spread", std::string("ring")).set("count", 5000.0).set("rings", 1.0).set("radius", 9000.0);
  outside.stamp("size", 30.0);
  Repeat nothing;
  nothing.set("spread", std::string("ring")).set("count", 1.0).set("rings", 1.0).set("radius", 9000.0);
  oa::bench::report("5000 copies outside the frame / none", oa::bench::ratio([&] { outside.make(); }, [&] { nothing.make(); }, 8), 1.5,
                    false);

  // Strands that taper and go over from one colour into another.
  Repeat strands;
  strands.scene.layers[0] = oa::newLayer(*oa::findStep("outline"), "Strands");
  strands.set("outline", *oa::outlineFromPath("M-900 0 L900 0")).set("strands", 200.0).set("strandLength", 420.0).set("fill", false);
  strands.set("centre", oa::Point{0.5, 0.1}).set("wobble", 0.0);
  const auto paintStrands = [&] {
    painter.paint([](QPainter& p) {
      p.setPen(Qt::NoPen);
      for (int i = 0; i < 200; ++i) {
        constexpr int kParts = 28;
        const double length = 420 * (1 - 0.35 * unit(i, 3)) / kParts;
        QPolygonF left;
        QPolygonF right;
        QPointF at(60 + 9 * i, 108);
        for (int k = 0; k <= kParts; ++k) {
          const double t = static_cast<double>(k) / kParts;
          const double way = 1.5708 + 0.7 * t * std::sin(6.2832 * (i / 200.0 - 0.6 * t));
          const QPointF side(-std::sin(way), std::cos(way));
          const double radius = 6 * (1 - 0.9 * t);
          left << at + radius * side;
          right.prepend(at - radius * side);
          at += QPointF(std::cos(way), std::sin(way)) * length;
        }
        QLinearGradient colours(QPointF(60 + 9 * i, 108), at);
        colours.setColorAt(0, QColor(243, 207, 155));
        colours.setColorAt(1, QColor(200, 72, 43));
        p.setBrush(colours);
        p.drawPolygon(left + right);
      }
    });
  };
  oa::bench::report("QPainter / 200 strands",
                    oa::bench::ratio(
                        paintStrands, [&] { strands.make(); }, 6),
                    5, true);

  // Every copy in its own time.
  Repeat moving;
  moving.set("spread", std::string("scattered")).set("even", false).set("count", 5000.0);
  moving.stamp("size", 30.0, 50.0).stamp("opacity", 0.2, 1.0).stamp("turn", 0.0, 40.0);
  Repeat resting;
  resting.set("spread", std::string("scattered")).set("even", false).set("count", 5000.0);
  resting.stamp("size", 40.0).stamp("opacity", 0.6);
  oa::bench::report("5000 moving copies / resting ones", oa::bench::ratio([&] { moving.make(); }, [&] { resting.make(); }, 8), 2.5, false);
  return oa::bench::allMet() ? 0 : 1;
}
