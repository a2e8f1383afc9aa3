// Feeds mutated scene files to the reader, and what it accepts to the renderer. Every file must end in a clear
// error or in a scene that survives being saved, within the time limit, and without a complaint of the sanitizers.
#include <unistd.h>

#include <algorithm>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <string>
#include <vector>

#include "base/files.h"
#include "mutate.h"
#include "render/frames.h"
#include "scene/scene_json.h"

// What the font library keeps until the end is no leak of ours. The sanitizer asks for it by this name.
extern "C" const char* __lsan_default_suppressions();                                    // NOLINT(bugprone-reserved-identifier)
extern "C" const char* __lsan_default_suppressions() { return "leak:libfontconfig\n"; }  // NOLINT(bugprone-reserved-identifier)

namespace {

constexpr unsigned kSecondsPerFile = 20;

[[noreturn]] void refuse(const std::string& text, const char* why) {
  std::fprintf(stderr, "%s\n----\n%s\n", why, text.c_str());
  std::exit(1);
}

// An index past the end, which the sanitizers must see; by way of a number that the compiler does not know.
int planted(int index) {
  const std::vector<int> numbers(4, 1);
  return numbers.data()[index];
}

}  // namespace

int main(int argc, char** argv) {
  using namespace oa;
  if (argc == 2 && std::string(argv[1]) == "--plant") return planted(argc + 2);
  if (argc != 3) {
    std::fprintf(stderr, "over-again-fuzz FOLDER COUNT, or --plant\n");
    return 2;
  }
  std::vector<std::string> paths;
  for (const auto& entry : std::filesystem::directory_iterator(argv[1])) paths.push_back(entry.path().string());
  std::sort(paths.begin(), paths.end());
  std::vector<std::string> originals;
  for (const std::string& path : paths) {
    const auto text = readFile(path, kMaxSceneBytes);
    if (!text || !sceneFromText(*text)) refuse(path, "a whole scene was not read");
    originals.push_back(*text);
  }
  if (originals.empty()) refuse(argv[1], "there are no scenes here");
  const int count = std::atoi(argv[2]);
  int accepted = 0;
  int rendered = 0;
  fuzz::Dice dice(2026);
  for (int i = 0; i < count; ++i) {
    const std::string text = fuzz::mutated(originals, dice);
    alarm(kSecondsPerFile);
    const auto scene = sceneFromText(text);
    if (!scene) {
      if (scene.error().message.empty()) refuse(text, "an error without words");
      continue;
    }
    ++accepted;
    const auto again = sceneFromText(sceneToText(*scene));
    if (!again || !(*again == *scene)) refuse(text, "saving and reading changed the scene");
    // Small, but through every kernel; the odd size leaves no room for kernels that write past a row.
    if (i % 4 == 0) {
      const Frame8 picture = frame(*scene, static_cast<std::int64_t>(dice.roll(1000)) - 500, 37, 21);
      if (picture.rgba.size() != std::size_t{37} * 21 * 4) refuse(text, "a frame of the wrong size");
      ++rendered;
    }
  }
  std::printf("%d files: %d accepted, %d rendered, the others refused with a sentence\n", count, accepted, rendered);
  if (accepted * 20 < count || accepted == count) refuse("", "the mutations are too wild or too tame to mean anything");
  return 0;
}
