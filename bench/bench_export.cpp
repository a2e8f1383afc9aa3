#include <sched.h>

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <ctime>
#include <filesystem>
#include <functional>

#include "edit/source_layers.h"
#include "media/export.h"
#include "media/movie_writer.h"
#include "ratios.h"
#include "render/frames.h"
#include "scene/scene_file.h"
#include "store/media_store.h"

namespace oa::bench {

// Export of 1920 x 1080 against the encoder alone with the same frames, settings and threads. `only` one part of it: movie, clip or
// pictures.
void exportRatios(const std::string& only) {
  Scene scene;
  scene.frames = 60;
  scene.layers.push_back(newLayer(*findStep("gradient"), "ground"));
  Layer fog = newLayer(*findStep("noise"), "fog");
  fog.recipe.push_back(newStep(*findStep("levels")));
  fog.recipe.push_back(newStep(*findStep("colourmap")));
  fog.blend = BlendMode::Screen;
  scene.layers.push_back(fog);
  const std::string path = (std::filesystem::temp_directory_path() / "over-again-bench.mp4").string();
  std::vector<FrameYuv> frames(static_cast<std::size_t>(scene.frames));
  Renderer renderer(scene, 1920, 1080);
  for (int k = 0; k < scene.frames; ++k) renderInto(renderer, k, false, frames[static_cast<std::size_t>(k)]);
  const auto encoded = [&](ExportFormat format, ExportQuality quality, int count) {
    auto file = OutputFile::begin(path, false);
    MovieSettings movie;
    movie.format = format;
    movie.quality = quality;
    movie.width = 1920;
    movie.height = 1080;
    movie.rate = scene.rate;
    movie.stretches = {{0, count, 1}};
    auto writer = MovieWriter::open(*file, movie);
    for (int k = 0; k < count; ++k)
      if (!(*writer)->add(frames[static_cast<std::size_t>(k)])) std::puts("encoding failed");
    if (!(*writer)->finish()) std::puts("encoding failed");
  };
  const auto encoderAlone = [&] { encoded(ExportFormat::Mp4, ExportQuality::Good, scene.frames); };
  const auto exported = [&](int loops) {
    ExportSettings settings;
    settings.path = path;
    settings.loops = loops;
    if (!exportScene(scene, settings, {})) std::puts("export failed");
  };
  const auto wanted = [&](const char* part) { return only.empty() || only == part; };
  if (wanted("movie")) {
    report("export of MP4, against the encoder alone", ratio([&] { exported(1); }, encoderAlone, 5), 1.15, false);
    report("export of ten loops, against one", ratio([&] { exported(10); }, [&] { exported(1); }, 5), 1.15, false);
  }
  // What one may wait for, at each quality.
  if (wanted("quick"))
    for (const ExportFormat format : {ExportFormat::Mp4, ExportFormat::H265, ExportFormat::WebM, ExportFormat::Av1}) {
      const std::string name(formatSpec(format).title);
      constexpr int kCount = 24;
      double seconds[2];
      for (const ExportQuality quality : {ExportQuality::Quick, ExportQuality::Good})
        seconds[quality == ExportQuality::Good] = quickest([&] { encoded(format, quality, kCount); }, 2) / kCount;
      std::printf("  (%s: %.3f s a picture quickly, %.3f s well)\n", name.c_str(), seconds[0], seconds[1]);
      const bool usual = format == ExportFormat::Mp4 || format == ExportFormat::WebM;
      report(name + ", good against quick", seconds[1] / seconds[0], usual ? 3 : 1.5, true);
    }
  // A clip of that size as the only layer: decoded, shown and encoded at once, against the slower of decoding and encoding alone.
  const std::string from = (std::filesystem::temp_directory_path() / "over-again-bench-clip.mp4").string();
  if (wanted("clip")) {
    // As cameras and stock libraries make them: some ten to twenty megabits a second.
    ExportSettings taken;
    taken.path = from;
    taken.quality = ExportQuality::Small;
    if (!exportScene(scene, taken, {})) std::puts("export failed");
    std::printf("  (the clip has %.1f Mbit/s)\n", static_cast<double>(std::filesystem::file_size(from)) * 8e-6 / 2);
    const auto clip = MediaStore::shared().takeIn(from);
    if (!clip) return std::puts("the clip was not read"), void();
    Scene film;
    film.frames = 60;
    film.layers.push_back(edit::pictureLayer(*clip, film));
    film.layers[0].recipe[0].params[static_cast<std::size_t>(findParam(film.layers[0].recipe[0].spec->params, "to"))].base = 2.0;
    const auto filmed = [&] {
      MediaStore::shared().clear();
      ExportSettings settings;
      settings.path = path;
      if (!exportScene(film, settings, {})) std::puts("export failed");
    };
    const auto decoderAlone = [&] {
      const auto reader = openMoving(MediaKind::Mp4, {nullptr, from});
      for (std::size_t i = 0; reader && i < 60; ++i)
        if (!(*reader)->picture(i)) std::puts("decoding failed");
    };
    // What each of them takes of all processors: where encoder and decoder fill them by themselves, no order of work is quicker than the
    // sum.
    const auto spent = [](const std::function<void()>& work) {
      const std::clock_t before = std::clock();
      work();
      return static_cast<double>(std::clock() - before) / CLOCKS_PER_SEC;
    };
    std::printf("  (export %.2f s and %.2f s of processors, encoder %.2f and %.2f, decoder %.2f and %.2f)\n", quickest(filmed, 3),
                spent(filmed), quickest(encoderAlone, 3), spent(encoderAlone), quickest(decoderAlone, 3), spent(decoderAlone));
    report("export of a clip, against its encoder or decoder alone",
           std::min(ratio(filmed, encoderAlone, 5), ratio(filmed, decoderAlone, 5)), 1.05, false);
    std::filesystem::remove(from);
  }
  const std::string folder = (std::filesystem::temp_directory_path() / "over-again-bench-pictures").string();
  // On so many processors, whatever the number of threads.
  const auto pictures = [&](int processors) {
    cpu_set_t before;
    cpu_set_t some;
    CPU_ZERO(&some);
    sched_getaffinity(0, sizeof before, &before);
    for (int cpu = 0; cpu < CPU_SETSIZE && CPU_COUNT(&some) < processors; ++cpu)
      if (CPU_ISSET(cpu, &before)) CPU_SET(cpu, &some);
    sched_setaffinity(0, sizeof some, &some);
    ExportSettings settings;
    settings.format = ExportFormat::Png;
    settings.path = folder;
    settings.threads = processors;
    settings.range = {0, 39};
    const auto done = exportScene(scene, settings, {});
    if (!done) std::printf("export failed: %s\n", done.error().message.c_str());
    sched_setaffinity(0, sizeof before, &before);
  };
  std::filesystem::create_directories(folder);
  if (wanted("pictures"))
    report("numbered pictures, two processors against one", 1 / ratio([&] { pictures(2); }, [&] { pictures(1); }, 3), 1.8, true);
  std::filesystem::remove_all(folder);
  std::filesystem::remove(path);
}

}  // namespace oa::bench
