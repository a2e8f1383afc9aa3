// Feeds mutated pictures and drawings to the media store. Every one must end in a picture or in a sentence, within the time limit,
// and without a complaint of the sanitizers.
#include <unistd.h>
#include <vips/vips.h>

#include <algorithm>
#include <cstdio>
#include <cstdlib>
#include <string>
#include <vector>

#include "mutate.h"
#include "store/media_store.h"
#include "store/sample.h"

// What the font library keeps until the end is no leak of ours. The sanitizer asks for it by this name.
extern "C" const char* __lsan_default_suppressions();                                    // NOLINT(bugprone-reserved-identifier)
extern "C" const char* __lsan_default_suppressions() { return "leak:libfontconfig\n"; }  // NOLINT(bugprone-reserved-identifier)

namespace {

constexpr unsigned kSecondsPerFile = 20;

// Small pictures of every kind that can be written here, with colours in them.
std::vector<std::string> originals() {
  std::vector<std::string> list;
  VipsImage* noise = nullptr;
  VipsImage* image = nullptr;
  if (vips_gaussnoise(&noise, 23, 17, "mean", 128.0, "sigma", 60.0, nullptr) != 0 || vips_cast_uchar(noise, &image, nullptr) != 0)
    return list;
  VipsImage* bands[] = {image, image, image, image};
  VipsImage* rgba = nullptr;
  if (vips_bandjoin(bands, &rgba, 4, nullptr) != 0) return list;
  const auto add = [&](auto save, auto... options) {
    void* data = nullptr;
    std::size_t size = 0;
    if (save(rgba, &data, &size, options..., nullptr) == 0) list.emplace_back(static_cast<const char*>(data), size);
    g_free(data);
  };
  add(vips_pngsave_buffer);
  add(vips_pngsave_buffer, "interlace", TRUE);
  add(vips_jpegsave_buffer);
  add(vips_webpsave_buffer, "lossless", TRUE);
  add(vips_webpsave_buffer);
  add(vips_tiffsave_buffer);
  add(vips_tiffsave_buffer, "compression", VIPS_FOREIGN_TIFF_COMPRESSION_LZW, "tile", TRUE);
  add(vips_gifsave_buffer);
  // Of 16 bits.
  VipsImage* const shallow = rgba;
  if (vips_cast_ushort(shallow, &rgba, nullptr) == 0) {
    add(vips_pngsave_buffer);
    add(vips_tiffsave_buffer);
    g_object_unref(rgba);
  }
  g_object_unref(shallow);
  g_object_unref(image);
  g_object_unref(noise);
  // BMP, by hand: a header and rows of three bytes.
  std::string bmp("BM\x4a\x05\0\0\0\0\0\0\x36\0\0\0\x28\0\0\0\x17\0\0\0\x11\0\0\0\x01\0\x18\0", 30);
  bmp.resize(54 + 72 * 17, '\x5a');
  list.push_back(bmp);
  const std::string waves = oa::sampleDrawing();
  list.push_back(waves.substr(0, waves.find("/>", 3000) + 2) + "</svg>");
  list.emplace_back(
      "<svg xmlns='http://www.w3.org/2000/svg' width='40' height='30'><defs><filter id='f'><feGaussianBlur stdDeviation='3'/></filter>"
      "<linearGradient id='g'><stop offset='0' stop-color='red'/><stop offset='1' stop-color='#12345678'/></linearGradient></defs>"
      "<g filter='url(#f)'><path d='M1 2C3 4 5 6 7 8L9 10Z' fill='url(#g)'/><use href='#p'/><text x='3' y='9'>a</text></g>"
      "<rect id='p' width='9' height='4'/></svg>");
  return list;
}

// Bytes changed, moved, cut and doubled.
std::string damaged(const std::vector<std::string>& from, oa::fuzz::Dice& dice) {
  std::string bytes = from[dice.roll(from.size())];
  const auto place = [&] { return dice.roll(std::max<std::size_t>(1, bytes.size())); };
  for (std::size_t changes = 1 + dice.roll(6); changes > 0 && !bytes.empty(); --changes) {
    const std::size_t at = place();
    switch (dice.roll(6)) {
      case 0:
        bytes[at] = static_cast<char>(dice.roll(256));
        break;
      case 1:
        bytes[at] = static_cast<char>(bytes[at] ^ (1 << static_cast<int>(dice.roll(8))));
        break;
      case 2:
        bytes.erase(at, 1 + dice.roll(16));
        break;
      case 3:
        bytes.insert(at, bytes.substr(place(), 1 + dice.roll(40)));
        break;
      case 4:
        for (std::size_t i = at; i < std::min(bytes.size(), at + 4); ++i) bytes[i] = dice.roll(2) ? '\xff' : '\0';
        break;
      default:
        if (dice.roll(8) == 0) bytes.resize(at);
        break;
    }
  }
  return bytes;
}

}  // namespace

int main(int argc, char** argv) {
  using namespace oa;
  if (argc != 2) {
    std::fprintf(stderr, "over-again-fuzz-media COUNT\n");
    return 2;
  }
  if (VIPS_INIT(argv[0]) != 0) return 1;
  const std::vector<std::string> whole = originals();
  if (whole.size() < 10) {
    std::fprintf(stderr, "only %zu pictures to begin with\n", whole.size());
    return 1;
  }
  MediaStore store(std::size_t{32} << 20);
  const auto shown = [&](const std::string& bytes, bool& accepted) {
    MediaRef ref{"a"};
    ref.data = std::make_shared<const std::string>(bytes);
    ref.hash = contentHash(bytes);
    alarm(kSecondsPerFile);
    const auto taken = store.takeIn(ref);
    accepted = taken.has_value();
    if (!taken) return !taken.error().message.empty();
    const auto tile = store.tile(*taken, std::min(taken->width, 41), std::min(taken->height, 23), {Edge::Wrap, Edge::Mirror});
    return tile && tile->width >= 1 && tile->height >= 1;
  };
  for (const std::string& bytes : whole) {
    bool accepted = false;
    if (!shown(bytes, accepted) || !accepted) {
      std::fprintf(stderr, "a whole picture of %zu bytes was not read\n", bytes.size());
      return 1;
    }
  }
  const int count = std::atoi(argv[1]);
  int accepted = 0;
  fuzz::Dice dice(2027);
  for (int i = 0; i < count; ++i) {
    bool one = false;
    if (!shown(damaged(whole, dice), one)) {
      std::fprintf(stderr, "file %d ended in neither a picture nor a sentence\n", i);
      return 1;
    }
    accepted += one;
  }
  std::printf("%d files: %d shown, the others refused with a sentence\n", count, accepted);
  return accepted > 0 && accepted < count ? 0 : 1;
}
