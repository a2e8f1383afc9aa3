#include "media/gif_writer.h"

#include <gif_lib.h>

#include <algorithm>

namespace oa {
namespace {

constexpr std::uint8_t kClear = 255;

// Where two pictures of one width differ.
struct Box {
  int left = 0, top = 0, right = 0, bottom = 0;  // right and bottom lie outside
  [[nodiscard]] bool empty() const { return right <= left; }
};

Box changedBox(const std::vector<std::uint8_t>& a, const std::vector<std::uint8_t>& b, int width, int height) {
  Box box{width, height, 0, 0};
  for (int y = 0; y < height; ++y) {
    const auto row = static_cast<std::ptrdiff_t>(y) * width;
    const auto from = a.begin() + row;
    const auto first = std::mismatch(from, from + width, b.begin() + row).first - from;
    if (first == width) continue;
    int last = width;
    while (a[static_cast<std::size_t>(row + last - 1)] == b[static_cast<std::size_t>(row + last - 1)]) --last;
    box.left = std::min(box.left, static_cast<int>(first));
    box.right = std::max(box.right, last);
    box.top = std::min(box.top, y);
    box.bottom = y + 1;
  }
  return box;
}

}  // namespace

struct GifWriter::State {
  GifSettings settings;
  OutputFile* file = nullptr;
  Status written;
  GifFileType* gif = nullptr;
  std::vector<std::uint8_t> before;
  std::vector<std::uint8_t> line;

  ~State() {
    if (gif) EGifCloseFile(gif, nullptr);
  }
  // giflib takes fewer bytes than it gave for a failure.
  static int put(GifFileType* gif, const GifByteType* bytes, int count) {
    auto* state = static_cast<State*>(gif->UserData);
    state->written = state->file->write({reinterpret_cast<const char*>(bytes), static_cast<std::size_t>(count)});
    return state->written ? count : 0;
  }
  [[nodiscard]] Status checked(bool ok) const {
    if (!written) return written;
    if (!ok) return fail("could not be encoded");
    return {};
  }
};

GifWriter::GifWriter(std::unique_ptr<State> state) : state_(std::move(state)) {}
GifWriter::~GifWriter() = default;

Result<std::unique_ptr<GifWriter>> GifWriter::open(OutputFile& file, GifSettings settings) {
  auto state = std::make_unique<State>();
  State& s = *state;
  s.settings = std::move(settings);
  s.file = &file;
  int code = 0;
  s.gif = EGifOpen(&s, State::put, &code);
  if (!s.gif) return fail("could not be set up");
  EGifSetGifVersion(s.gif, true);
  ColorMapObject* map = GifMakeMapObject(256, nullptr);
  if (!map) return fail("there is not enough memory");
  for (int i = 0; i < 256; ++i) {
    const std::uint32_t c = s.settings.palette[static_cast<std::size_t>(i)];
    map->Colors[i] = {static_cast<GifByteType>(c >> 16), static_cast<GifByteType>(c >> 8), static_cast<GifByteType>(c)};
  }
  bool ok = EGifPutScreenDesc(s.gif, s.settings.width, s.settings.height, 8, 0, map) == GIF_OK;
  GifFreeMapObject(map);
  // The block counts repeats after the first play; without it a GIF is shown once.
  if (ok && s.settings.plays != 1) {
    const int repeats = s.settings.plays == 0 ? 0 : s.settings.plays - 1;
    const GifByteType count[3] = {1, static_cast<GifByteType>(repeats & 255), static_cast<GifByteType>(repeats >> 8)};
    ok = EGifPutExtensionLeader(s.gif, APPLICATION_EXT_FUNC_CODE) == GIF_OK && EGifPutExtensionBlock(s.gif, 11, "NETSCAPE2.0") == GIF_OK &&
         EGifPutExtensionBlock(s.gif, 3, count) == GIF_OK && EGifPutExtensionTrailer(s.gif) == GIF_OK;
  }
  if (auto status = s.checked(ok); !status) return tl::unexpected(status.error());
  return std::unique_ptr<GifWriter>(new GifWriter(std::move(state)));
}

Status GifWriter::add(const std::vector<std::uint8_t>& indexes, int hundredths) {
  State& s = *state_;
  const int width = s.settings.width;
  Box box{0, 0, width, s.settings.height};
  const bool change = !s.settings.seeThrough && !s.before.empty();
  if (change) box = changedBox(s.before, indexes, width, s.settings.height);
  // A picture that changes nothing still lasts: one pixel that says "as before".
  if (box.empty()) box = {0, 0, 1, 1};
  GraphicsControlBlock control{};
  control.DisposalMode = s.settings.seeThrough ? DISPOSE_BACKGROUND : DISPOSE_DO_NOT;
  control.DelayTime = hundredths;
  control.TransparentColor = s.settings.seeThrough || change ? kClear : NO_TRANSPARENT_COLOR;
  GifByteType bytes[4];
  EGifGCBToExtension(&control, bytes);
  bool ok = EGifPutExtension(s.gif, GRAPHICS_EXT_FUNC_CODE, 4, bytes) == GIF_OK &&
            EGifPutImageDesc(s.gif, box.left, box.top, box.right - box.left, box.bottom - box.top, false, nullptr) == GIF_OK;
  s.line.resize(static_cast<std::size_t>(width));
  for (int y = box.top; ok && y < box.bottom; ++y) {
    const auto row = static_cast<std::size_t>(y) * static_cast<std::size_t>(width);
    for (int x = box.left; x < box.right; ++x) {
      const std::size_t i = row + static_cast<std::size_t>(x);
      s.line[static_cast<std::size_t>(x - box.left)] = change && indexes[i] == s.before[i] ? kClear : indexes[i];
    }
    ok = EGifPutLine(s.gif, s.line.data(), box.right - box.left) == GIF_OK;
  }
  if (!s.settings.seeThrough) s.before = indexes;
  return s.checked(ok);
}

Status GifWriter::finish() {
  State& s = *state_;
  int code = 0;
  const bool ok = EGifCloseFile(s.gif, &code) == GIF_OK;
  s.gif = nullptr;
  return s.checked(ok);
}

}  // namespace oa
