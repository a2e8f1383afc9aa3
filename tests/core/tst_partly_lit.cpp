// Spans of which only what is mixed is in linear light: against the scalar curves, and what must not matter to a pixel's bits.
#include <QTest>
#include <array>
#include <cmath>
#include <cstring>
#include <limits>
#include <vector>

#include "image/blend.h"
#include "image/colour.h"
#include "image/partly_lit.h"
#include "image/row_parts.h"
#include "image/tint.h"
#include "image/transfer.h"
#include "support/pictures.h"

using namespace oa;

namespace {

constexpr int kPixels = kSpanStep;
constexpr std::size_t kRoom = (kSpanStep + kSpanPadding) * 4;
using Span = std::array<float, kRoom>;
using Pixel = std::array<double, 4>;

unsigned scrambled(unsigned a, unsigned b) {
  unsigned h = a * 2654435761U ^ b * 40503U;
  h ^= h >> 15;
  h *= 2246822519U;
  return h ^ h >> 13;
}

// Runs of nothing, of what is opaque and of what is not, some of one pixel; a few are opaque but for a rounding.
Span layer(unsigned seed) {
  Span made{};
  for (int i = 0; i < kPixels; ++i) {
    const unsigned kind = scrambled(seed, static_cast<unsigned>(i) / (1 + seed % 5)) % 3;
    const unsigned h = scrambled(seed + 77, static_cast<unsigned>(i));
    const float nearly = h % 11 == 0 ? 1 + 1.2e-7F : h % 11 == 1 ? 1 - 6e-8F : 1;
    const float alpha = kind == 0 ? 0.0F : kind == 1 ? nearly : 0.02F + 0.96F * static_cast<float>(h & 255U) / 255;
    for (int c = 0; c < 3; ++c) made[static_cast<std::size_t>(i * 4 + c)] = alpha * static_cast<float>(h >> (8 + 7 * c) & 127U) / 127;
    made[static_cast<std::size_t>(i * 4 + 3)] = alpha;
  }
  return made;
}

Span ground(unsigned seed) {
  Span made{};
  for (std::size_t i = 0; i < kRoom; ++i)
    made[i] = i % 4 == 3 ? 1.0F : static_cast<float>(scrambled(seed, static_cast<unsigned>(i)) % 1001) / 1000;
  return made;
}

Span tinted(Span shares, const Tint& tint) {
  for (std::size_t i = 0; i < kRoom; ++i)
    if (i % 4 != 3) shares[i] = shares[i / 4 * 4 + 3] * tint[i % 4];
  return shares;
}

Span inLight(Span span) {
  decodeSpan(span.data(), kPixels);
  return span;
}

Pixel lightOf(const float* p) {
  Pixel made{0, 0, 0, static_cast<double>(p[3])};
  for (std::size_t c = 0; c < 3 && p[3] > 0; ++c) made[c] = srgbDecode(static_cast<double>(p[c]) / made[3]) * made[3];
  return made;
}

// What `above` at some opacity over what is in light makes.
Pixel over(const Pixel& above, double opacity, const Pixel& below) {
  Pixel made{};
  for (std::size_t c = 0; c < 4; ++c) made[c] = above[c] * opacity + below[c] * (1 - above[3] * opacity);
  return made;
}

Pixel shown(const Pixel& light) {
  Pixel made = light;
  for (std::size_t c = 0; c < 3 && light[3] > 0; ++c) made[c] = srgbEncode(light[c] / light[3]) * light[3];
  return made;
}

// Three layers over an opaque ground: one at full strength, one less, and one at full strength that is in light itself.
struct Laid {
  Span pixels;
  Lit lit{};
};

enum class Knows { Nothing, Ground };

// `known`: the light of what lies below, or null.
Laid layOnto(const std::array<Span, 3>& layers, const Span& onto, const float* known, const float* tint, int n) {
  Laid made{onto, {}};
  layPartlyLit(layers[0].data(), 1, tint, made.pixels.data(), known, made.lit.from(0), n);
  layPartlyLit(layers[1].data(), 0.6F, nullptr, made.pixels.data(), known, made.lit.from(0), n);
  const Span third = inLight(layers[2]);
  layLight(third.data(), 1, made.pixels.data(), known, made.lit.from(0), n);
  return made;
}

Laid lay(const std::array<Span, 3>& layers, const Span& below, Knows knows, const float* tint, int n) {
  const Span light = inLight(below);
  return layOnto(layers, below, knows == Knows::Ground ? light.data() : nullptr, tint, n);
}

std::array<Span, 3> layers(unsigned seed) { return {layer(seed), layer(seed + 1), layer(seed + 2)}; }

}  // namespace

class TestPartlyLit : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void mixesByTheCurves();
  void whatIsAloneKeepsItsBits();
  void modesMixByTheCurves();
  void whatIsUntouchedIsMixedWhereItLies();
  void theGroundMayComeLast();
  void opaquePixelsNeedNotBeAsked();
  void neighboursDoNotMatter();
  void sharesOfOneColourNeedNoCurve();
  void whetherColoursAreOne();
  void partsOfRows();
};

void TestPartlyLit::mixesByTheCurves() {
  test::forEachTarget([](const char* target) {
    for (unsigned seed = 0; seed < 40; ++seed)
      for (const Knows knows : {Knows::Nothing, Knows::Ground}) {
        const auto above = layers(seed * 3);
        const Span below = ground(seed);
        Laid made = lay(above, below, knows, nullptr, kPixels);
        showLit(made.pixels.data(), made.lit.from(0), kPixels);
        for (int i = 0; i < kPixels; ++i) {
          const int at = i * 4;
          Pixel expected = over(lightOf(above[0].data() + at), 1, lightOf(below.data() + at));
          expected = over(lightOf(above[1].data() + at), static_cast<double>(0.6F), expected);
          expected = shown(over(lightOf(above[2].data() + at), 1, expected));
          for (int c = 0; c < 4; ++c)
            QVERIFY2(
                std::abs(static_cast<double>(made.pixels[static_cast<std::size_t>(at + c)]) - expected[static_cast<std::size_t>(c)]) < 6e-6,
                qPrintable(QStringLiteral("%1: seed %2, pixel %3, channel %4").arg(target).arg(seed).arg(i).arg(c)));
        }
      }
  });
}

// Neither decoded nor encoded: what nothing lies over, and what is opaque and lies on top.
void TestPartlyLit::whatIsAloneKeepsItsBits() {
  test::forEachTarget([](const char* target) {
    int kept = 0;
    int covered = 0;
    for (unsigned seed = 0; seed < 40; ++seed) {
      const Span above = layer(seed);
      const Span below = ground(seed);
      Span made = below;
      Lit lit{};
      layPartlyLit(above.data(), 1, nullptr, made.data(), nullptr, lit.from(0), kPixels);
      showLit(made.data(), lit.from(0), kPixels);
      for (std::size_t i = 0; i < static_cast<std::size_t>(kPixels) * 4; i += 4) {
        const float alpha = above[i + 3];
        if (alpha != 0 && alpha != 1) continue;
        const Span& from = alpha == 0 ? below : above;
        ++(alpha == 0 ? kept : covered);
        QVERIFY2(std::memcmp(made.data() + i, from.data() + i, sizeof(float) * 4) == 0, target);
      }
    }
    QVERIFY(kept > 500 && covered > 500);
  });
}

void TestPartlyLit::modesMixByTheCurves() {
  test::forEachTarget([](const char* target) {
    for (const BlendMode mode : {BlendMode::Screen, BlendMode::Multiply, BlendMode::SoftLight, BlendMode::Hue}) {
      const Span above = inLight(layer(5));
      const Span below = ground(9);
      // Some of it is lit already, some was covered.
      Span made = below;
      Lit lit{};
      layPartlyLit(layer(6).data(), 1, nullptr, made.data(), nullptr, lit.from(0), kPixels);
      Span expected = made;
      showLit(expected.data(), lit.from(0), kPixels);
      const Span before = expected;
      expected = inLight(expected);
      blendSpan(mode, above.data(), 0.7F, expected.data(), kPixels);
      encodeSpan(expected.data(), kPixels);
      QVERIFY2(lightBelow(above.data(), made.data(), nullptr, lit.from(0), kPixels) == made.data(), target);
      blendSpan(mode, above.data(), 0.7F, made.data(), kPixels);
      showLit(made.data(), lit.from(0), kPixels);
      for (std::size_t i = 0; i < static_cast<std::size_t>(kPixels) * 4; ++i) {
        QVERIFY2(std::abs(made[i] - expected[i]) < 1e-5F, target);
        if (above[i / 4 * 4 + 3] == 0) QVERIFY2(made[i] == before[i], target);
      }
    }
  });
}

// Where its light is known that is not copied, if all of it is to be lit; what is made of it is the same.
void TestPartlyLit::whatIsUntouchedIsMixedWhereItLies() {
  test::forEachTarget([](const char* target) {
    int inPlace = 0;
    for (unsigned seed = 0; seed < 40; ++seed) {
      Span above = inLight(layer(seed));
      // From some pixel on there is something everywhere.
      const std::size_t from = seed % 3 == 0 ? 0 : scrambled(seed, 1) % kPixels;
      for (std::size_t i = from; i < kRoom / 4; ++i)
        for (std::size_t c = 0; c < 4; ++c) above[i * 4 + c] = std::max(above[i * 4 + c], 0.1F);
      const Span below = ground(seed);
      const Span light = inLight(below);
      for (const bool touched : {false, true}) {
        Laid made{below, {}};
        if (touched) layPartlyLit(layer(seed + 9).data(), 1, nullptr, made.pixels.data(), light.data(), made.lit.from(0), kPixels);
        Laid copied = made;
        bool everywhere = made.lit == Lit{};
        for (std::size_t i = 0; i < kPixels; ++i) everywhere = everywhere && above[i * 4 + 3] > 0;
        const float* const at = lightBelow(above.data(), made.pixels.data(), light.data(), made.lit.from(0), kPixels);
        QVERIFY2(at == (everywhere ? light.data() : made.pixels.data()), target);
        inPlace += at == light.data();
        blendSpan(BlendMode::Screen, above.data(), 0.8F, at, made.pixels.data(), kPixels);
        // And where nothing is known.
        const float* const with = lightBelow(above.data(), copied.pixels.data(), nullptr, copied.lit.from(0), kPixels);
        blendSpan(BlendMode::Screen, above.data(), 0.8F, with, copied.pixels.data(), kPixels);
        QVERIFY2(with == copied.pixels.data() && made.lit == copied.lit, target);
        for (std::size_t i = 0; i < std::size_t{kPixels} * 4; ++i) QVERIFY2(std::abs(made.pixels[i] - copied.pixels[i]) < 1e-6F, target);
      }
    }
    QVERIFY(inPlace > 5);
  });
}

// Where its light is known what lies below is only put where nothing has been laid: the same to the bit, whatever was there before.
void TestPartlyLit::theGroundMayComeLast() {
  test::forEachTarget([](const char* target) {
    unsigned steps = 0;
    int whole = 0;
    for (unsigned seed = 0; seed < 40; ++seed)
      for (const bool reached : {false, true}) {
        auto above = layers(seed * 3);
        // Runs of some steps with nothing at all.
        for (Span& one : above)
          for (std::size_t i = 0; i < kRoom && !reached; ++i)
            if (i / (4 * kSpanPadding) % 3 == seed % 3) one[i] = 0;
        const Span below = ground(seed);
        Laid first = lay(above, below, Knows::Ground, nullptr, kPixels);
        showLit(first.pixels.data(), first.lit.from(0), kPixels);
        const Span light = inLight(below);
        Span nothing;
        nothing.fill(std::numeric_limits<float>::quiet_NaN());
        Laid last = layOnto(above, nothing, light.data(), nullptr, kPixels);
        const UntouchedSteps free = untouched(last.lit.from(0), kPixels);
        for (int step = 0; step < kPixels / kSpanPadding; ++step) {
          const std::ptrdiff_t at = step * kSpanPadding * 4;
          const bool isWhole = (free.whole >> step & 1) != 0;
          whole += isWhole;
          if (isWhole)
            std::copy_n(below.begin() + at, kSpanPadding * 4, last.pixels.begin() + at);
          else if ((free.any >> step & 1) != 0)
            putUntouched(below.data() + at, last.pixels.data() + at, last.lit.from(step * kSpanPadding), kSpanPadding);
          steps += free.any >> step & 1;
        }
        showLit(last.pixels.data(), last.lit.from(0), kPixels);
        QVERIFY2(std::memcmp(first.pixels.data(), last.pixels.data(), sizeof(float) * 4 * kPixels) == 0, target);
      }
    QVERIFY(steps > 500 && steps < 80 * kPixels / kSpanPadding && whole > 20);
  });
}

// To the bit as where each is asked whether it is; and where it is so but for a rounding, but for a rounding.
void TestPartlyLit::opaquePixelsNeedNotBeAsked() {
  test::forEachTarget([](const char* target) {
    for (const float alpha : {1.0F, 1 + 1.2e-7F, 1 - 6e-8F}) {
      Span pixels = ground(7);
      for (std::size_t i = 3; i < kRoom; i += 4) pixels[i] = alpha;
      // As much as an inverse leaves.
      const float most = alpha == 1 ? 0 : 1.2e-6F;
      const auto alike = [&](const Span& a, const Span& b) {
        return std::equal(a.begin(), a.begin() + kPixels * 4, b.begin(), [&](float x, float y) { return std::abs(x - y) <= most; });
      };
      Span light{};
      decodeOpaque(pixels.data(), light.data(), kPixels);
      QVERIFY2(alike(light, inLight(pixels)), target);
      Span asked = light;
      Span known = light;
      encodeSpan(asked.data(), kPixels);
      encodeOpaque(known.data(), kPixels);
      QVERIFY2(alike(asked, known), target);
      QVERIFY2(std::abs(known[5] - pixels[5]) < 4e-6F && known[3] == alpha, target);
      Laid shown = lay(layers(3), pixels, Knows::Ground, nullptr, kPixels);
      Laid all = shown;
      showLit(shown.pixels.data(), shown.lit.from(0), kPixels);
      showLit(all.pixels.data(), all.lit.from(0), kPixels, true);
      // What is mixed of opaque pixels is opaque but for a rounding.
      for (std::size_t i = 0; i < std::size_t{kPixels} * 4; ++i) QVERIFY2(std::abs(shown.pixels[i] - all.pixels[i]) < 1.2e-6F, target);
    }
  });
}

// Pixels moved on by one, two and three come out the same to the bit, and so do those before any end; on the same processor's vectors.
void TestPartlyLit::neighboursDoNotMatter() {
  test::forEachTarget([](const char* target) {
    for (unsigned seed = 0; seed < 12; ++seed)
      for (const Knows knows : {Knows::Nothing, Knows::Ground}) {
        const auto above = layers(seed * 3);
        const Span below = ground(seed);
        Laid whole = lay(above, below, knows, nullptr, kPixels);
        showLit(whole.pixels.data(), whole.lit.from(0), kPixels);
        for (const int by : {1, 2, 3, 7}) {
          const auto moved = [by](const Span& from) {
            Span to{};
            std::copy_n(from.begin() + static_cast<std::ptrdiff_t>(by) * 4, (kPixels - by) * 4, to.begin());
            return to;
          };
          const int n = kPixels - by;
          Laid part = lay({moved(above[0]), moved(above[1]), moved(above[2])}, moved(below), knows, nullptr, n);
          showLit(part.pixels.data(), part.lit.from(0), n);
          QVERIFY2(std::memcmp(part.pixels.data(), whole.pixels.data() + static_cast<std::ptrdiff_t>(by) * 4,
                               sizeof(float) * 4 * static_cast<std::size_t>(n)) == 0,
                   target);
        }
      }
  });
}

void TestPartlyLit::sharesOfOneColourNeedNoCurve() {
  test::forEachTarget([](const char* target) {
    const Tint tint{0.83F, 0.02F, 0.31F};
    alignas(64) std::array<float, 64> light{};
    for (std::size_t i = 0; i < 64; ++i) light[i] = i % 4 == 3 ? 1.0F : tint[i % 4];
    decodeSpan(light.data(), 16);
    for (unsigned seed = 0; seed < 10; ++seed) {
      auto above = layers(seed);
      above[0] = tinted(above[0], tint);
      const std::array<float, 4> colour{tint[0], tint[1], tint[2], 1};
      const Span below = ground(seed);
      Laid by = lay(above, below, Knows::Nothing, light.data(), kPixels);
      Laid without = lay(above, below, Knows::Nothing, nullptr, kPixels);
      QVERIFY2(by.lit == without.lit, target);
      // Alphas by themselves say as much, to the bit, at full strength and less.
      std::array<float, kRoom / 4> alphas{};
      for (std::size_t i = 0; i < alphas.size(); ++i) alphas[i] = above[0][i * 4 + 3];
      for (const float opacity : {1.0F, 0.45F})
        for (const bool known : {false, true}) {
          const Span bright = inLight(below);
          const float* const under = known ? bright.data() : nullptr;
          Laid pixels = layOnto(layers(seed + 50), below, under, nullptr, kPixels);
          Laid shares = pixels;
          layPartlyLit(above[0].data(), opacity, light.data(), pixels.pixels.data(), under, pixels.lit.from(0), kPixels);
          Laid coloured = shares;
          layShares({alphas.data(), nullptr}, above[0].data(), opacity, light.data(), shares.pixels.data(), under, shares.lit.from(0),
                    kPixels);
          QVERIFY2(shares.pixels == pixels.pixels && shares.lit == pixels.lit, target);
          // And so where no pixel lies there at all, but for their colour.
          layShares({alphas.data(), colour.data()}, nullptr, opacity, light.data(), coloured.pixels.data(), under, coloured.lit.from(0),
                    kPixels);
          QVERIFY2(coloured.pixels == pixels.pixels && coloured.lit == pixels.lit, target);
        }
      Span decoded{};
      decodeTint(above[0].data(), light.data(), decoded.data(), kPixels);
      const Span expected = inLight(above[0]);
      for (std::size_t i = 0; i < static_cast<std::size_t>(kPixels) * 4; ++i) {
        QVERIFY2(std::abs(by.pixels[i] - without.pixels[i]) < 2e-6F, target);
        QVERIFY2(std::abs(decoded[i] - expected[i]) < 1e-6F, target);
      }
    }
  });
}

void TestPartlyLit::whetherColoursAreOne() {
  CommonTint one;
  for (const float share : {0.25F, 1.0F, 0.003F, 0.7F}) one.add({0.9F * share, 0.2F * share, 0, share});
  QVERIFY(one.tint().has_value());
  QVERIFY(std::abs((*one.tint())[0] - 0.9F) < 1e-6F);
  one.add({0, 0, 0, 0});
  QVERIFY(one.tint().has_value());
  CommonTint other = one;
  other.add({0.45F, 0.1F, 0.001F, 0.5F});
  QVERIFY(!other.tint().has_value());
  // Light without alpha, and next to none.
  other = one;
  other.add({0.1F, 0.1F, 0.1F, 0});
  QVERIFY(!other.tint().has_value());
  QVERIFY(!tintOf({0.00001F, 0, 0, 0.00002F}).has_value());
  QVERIFY(!CommonTint().tint().has_value());
}

void TestPartlyLit::partsOfRows() {
  const auto of = [](const RowParts& parts) {
    std::vector<std::pair<int, int>> made;
    for (const RowPart& p : parts) made.emplace_back(p.from, p.to);
    return made;
  };
  using Pairs = std::vector<std::pair<int, int>>;
  RowParts parts;
  parts.add(3, 3);
  QVERIFY(parts.empty());
  parts.add(5, 20);
  parts.add(20, 21);
  parts.add(40, 41);
  QCOMPARE(of(parts), (Pairs{{5, 21}, {40, 41}}));
  QCOMPARE(of(parts.moved(-10, 0, 256)), (Pairs{{0, 11}, {30, 31}}));
  QCOMPARE(of(parts.moved(0, 6, 40)), (Pairs{{6, 21}}));
  QCOMPARE(of(parts.widened(0, 16, 43)), (Pairs{{0, 43}}));
  QCOMPARE(of(parts.widened(0, 4, 43)), (Pairs{{4, 24}, {40, 43}}));
  // More than there is room for.
  RowParts many;
  for (int i = 0; i < 40; ++i) many.add(i * 10, i * 10 + 2);
  const auto all = of(many);
  QVERIFY(all.size() < 20);
  QCOMPARE(all.front(), std::make_pair(0, 2));
  QCOMPARE(all.back().second, 392);
}

QTEST_GUILESS_MAIN(TestPartlyLit)
#include "tst_partly_lit.moc"
