// Pictures as layers: tiled and turned against OpenCV, scrolling against a copy, opening against libvips, the cut of large ones.
#include <opencv2/imgproc.hpp>
#include <unistd.h>
#include <vips/vips.h>

#include <cmath>
#include <cstdio>
#include <cstring>
#include <string>

#include "base/parallel.h"
#include "image/sampling.h"
#include "image/seamless.h"
#include "image/tiled.h"
#include "ratios.h"
#include "store/media_store.h"

namespace {

constexpr int kWidth = 1920;
constexpr int kHeight = 1080;

oa::Plane pattern(int width, int height) {
  oa::Plane plane(width, height, 4);
  for (int y = 0; y < height; ++y)
    for (int i = 0; i < width * 4; ++i) plane.row(y)[i] = i % 4 == 3 ? 1.0f : static_cast<float>((i * 7 + y * 3) % 97) / 97;
  return plane;
}

oa::Tiling tilingOf(int width, int height, const oa::Affine& to) {
  oa::Tiling t;
  for (oa::TileAxis& axis : t.axes) axis.kind = oa::TileAxis::Kind::Repeat;
  t.axes[0].size = width - 2 * oa::kTileBorder;
  t.axes[1].size = height - 2 * oa::kTileBorder;
  t.to = to;
  t.box = {0, 0, kWidth, kHeight};
  t.opaque = true;
  return t;
}

// All rows on one thread: a turned picture by bands, an upright one by spans, as the compositor asks for them.
void pull(const oa::RowMaker& rows, oa::Plane& out) {
  for (int y = 0; y < kHeight; y += oa::kBandRows) {
    const int end = std::min(kHeight, y + oa::kBandRows);
    if (!rows.makesSpans()) {
      rows.rows(y, end, out.row(y), out.stride());
      continue;
    }
    for (int row = y; row < end; ++row)
      for (int x = 0; x < kWidth; x += oa::kSpanStep)
        rows.span(row, x, std::min(oa::kSpanStep, kWidth - x), out.row(row) + static_cast<std::ptrdiff_t>(x) * 4);
  }
  oa::bench::keep(out.row(0));
}

void samplingRatios() {
  const oa::Plane tile = pattern(1406, 906);
  oa::Plane out(kWidth, kHeight, 4);
  const double c = 0.95106;
  const double s = 0.30902;
  const auto turned = oa::tiledRows(tilingOf(1406, 906, {c, -s, 300.3, s, c, 111.7}), tile.pixels(), nullptr, kWidth);
  cv::Mat source(906, 1406, CV_32FC4, const_cast<float*>(tile.row(0)), static_cast<std::size_t>(tile.stride()) * sizeof(float));
  cv::Mat mapX(kHeight, kWidth, CV_32FC1);
  cv::Mat mapY(kHeight, kWidth, CV_32FC1);
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x) {
      mapX.at<float>(y, x) = static_cast<float>(c * x - s * y + 300.3);
      mapY.at<float>(y, x) = static_cast<float>(s * x + c * y + 111.7);
    }
  cv::setNumThreads(1);
  cv::Mat remapped(kHeight, kWidth, CV_32FC4);
  oa::bench::report("a tiled picture, turned, cubic, against OpenCV's remap, bilinear, wrapped",
                    oa::bench::ratio([&] { pull(*turned, out); },
                                     [&] { cv::remap(source, remapped, mapX, mapY, cv::INTER_LINEAR, cv::BORDER_WRAP); }, 12),
                    0.9, false);
  const oa::Plane from = pattern(kWidth, kHeight);
  const auto copy = [&] {
    std::memcpy(out.row(0), from.row(0), sizeof(float) * static_cast<std::size_t>(from.stride()) * kHeight);
    oa::bench::keep(out.row(0));
  };
  for (const auto& [name, by] :
       {std::pair{"scrolling by whole pixels, against a copy", 40.0}, {"scrolling across by a part of one, against a copy", 40.4}}) {
    const auto moved = oa::tiledRows(tilingOf(1406, 906, {1, 0, by, 0, 1, 0}), tile.pixels(), nullptr, kWidth);
    oa::bench::report(name, oa::bench::ratio([&] { pull(*moved, out); }, copy, 20), 1.5, false);
  }
}

void cutRatio() {
  const oa::Plane large = pattern(3840, 2160);
  double seconds = 1e9;
  oa::withThreads(1, [&] {
    seconds = oa::bench::quickest(
        [&] {
          const oa::Plane made = oa::seamless(large, {});
          oa::bench::keep(made.row(0));
        },
        3);
  });
  oa::bench::report("the cut of a picture of 3840x2160, one thread, seconds", seconds, 0.5, false);
}

void openingRatio() {
  if (VIPS_INIT("bench") != 0) return;
  const std::string path = "/tmp/over-again-bench-" + std::to_string(::getpid()) + ".jpg";
  VipsImage* noise = nullptr;
  VipsImage* soft = nullptr;
  VipsImage* image = nullptr;
  if (vips_gaussnoise(&noise, 6000, 4000, "mean", 128.0, "sigma", 80.0, nullptr) != 0 || vips_gaussblur(noise, &soft, 2.0, nullptr) != 0 ||
      vips_cast_uchar(soft, &image, nullptr) != 0)
    return;
  VipsImage* bands[] = {image, image, image};
  VipsImage* rgb = nullptr;
  if (vips_bandjoin(bands, &rgb, 3, nullptr) != 0 || vips_jpegsave(rgb, path.c_str(), "Q", 90, nullptr) != 0) return;
  const auto shown = [&] {
    oa::MediaStore store(std::size_t{1} << 30);
    const auto ref = store.takeIn(path);
    if (ref) oa::bench::keep(store.tile(*ref, 1620, 1080, {}).get());
  };
  const auto read = [&] {
    VipsImage* opened = vips_image_new_from_file(path.c_str(), "access", VIPS_ACCESS_SEQUENTIAL, nullptr);
    std::size_t size = 0;
    void* const data = vips_image_write_to_memory(opened, &size);
    oa::bench::keep(data);
    g_free(data);
    g_object_unref(opened);
  };
  oa::bench::report("a JPEG of 24 megapixels until it shows, against libvips reading it", oa::bench::ratio(shown, read, 4), 1.5, false);
  ::unlink(path.c_str());
  for (VipsImage* one : {rgb, image, soft, noise}) g_object_unref(one);
}

}  // namespace

namespace oa::bench {

void pictureRatios() {
  samplingRatios();
  cutRatio();
  openingRatio();
}

}  // namespace oa::bench
