// The sixteen blend modes against the formulas of W3C Compositing and Blending Level 1, written out here
// a second time on straight colours, as the standard states them.
#include <QTest>
#include <algorithm>
#include <array>
#include <cmath>
#include <functional>

#include "base/random.h"
#include "image/blend.h"
#include "image/rows.h"
#include "support/pictures.h"

using namespace oa;

namespace {

using Rgb = std::array<double, 3>;

double lum(const Rgb& c) { return 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2]; }
double sat(const Rgb& c) { return std::max({c[0], c[1], c[2]}) - std::min({c[0], c[1], c[2]}); }

Rgb clipColour(Rgb c) {
  const double l = lum(c);
  const double n = std::min({c[0], c[1], c[2]});
  const double x = std::max({c[0], c[1], c[2]});
  if (n < 0)
    for (double& v : c) v = l + (v - l) * l / (l - n);
  if (x > 1)
    for (double& v : c) v = l + (v - l) * (1 - l) / (x - l);
  return c;
}

Rgb setLum(Rgb c, double l) {
  const double d = l - lum(c);
  for (double& v : c) v += d;
  return clipColour(c);
}

Rgb setSat(const Rgb& c, double s) {
  // The standard sorts the components; scaling about the smallest is the same.
  const double low = std::min({c[0], c[1], c[2]});
  const double range = sat(c);
  if (range <= 0) return {0, 0, 0};
  return {(c[0] - low) * s / range, (c[1] - low) * s / range, (c[2] - low) * s / range};
}

double hardLight(double cb, double cs) { return cs <= 0.5 ? cb * 2 * cs : cb + (2 * cs - 1) - cb * (2 * cs - 1); }

double softLight(double cb, double cs) {
  if (cs <= 0.5) return cb - (1 - 2 * cs) * cb * (1 - cb);
  const double d = cb <= 0.25 ? ((16 * cb - 12) * cb + 4) * cb : std::sqrt(cb);
  return cb + (2 * cs - 1) * (d - cb);
}

double separable(BlendMode mode, double cb, double cs) {
  switch (mode) {
    case BlendMode::Multiply:
      return cb * cs;
    case BlendMode::Screen:
      return cb + cs - cb * cs;
    case BlendMode::Overlay:
      return hardLight(cs, cb);
    case BlendMode::Darken:
      return std::min(cb, cs);
    case BlendMode::Lighten:
      return std::max(cb, cs);
    case BlendMode::ColorDodge:
      return cb == 0 ? 0 : cs == 1 ? 1 : std::min(1.0, cb / (1 - cs));
    case BlendMode::ColorBurn:
      return cb == 1 ? 1 : cs == 0 ? 0 : 1 - std::min(1.0, (1 - cb) / cs);
    case BlendMode::HardLight:
      return hardLight(cb, cs);
    case BlendMode::SoftLight:
      return softLight(cb, cs);
    case BlendMode::Difference:
      return std::abs(cb - cs);
    case BlendMode::Exclusion:
      return cb + cs - 2 * cb * cs;
    default:
      return cs;
  }
}

Rgb blended(BlendMode mode, const Rgb& cb, const Rgb& cs) {
  switch (mode) {
    case BlendMode::Hue:
      return setLum(setSat(cs, sat(cb)), lum(cb));
    case BlendMode::Saturation:
      return setLum(setSat(cb, sat(cs)), lum(cb));
    case BlendMode::Color:
      return setLum(cs, lum(cb));
    case BlendMode::Luminosity:
      return setLum(cb, lum(cs));
    default:
      return {separable(mode, cb[0], cs[0]), separable(mode, cb[1], cs[1]), separable(mode, cb[2], cs[2])};
  }
}

// Section 5.8: Cs = (1 - ab) Cs + ab B(Cb, Cs), then source-over; all straight, the result premultiplied.
std::array<double, 4> composed(BlendMode mode, const Rgb& cb, double ab, const Rgb& cs, double as) {
  const Rgb mixed = blended(mode, cb, cs);
  std::array<double, 4> out{};
  for (std::size_t i = 0; i < 3; ++i) out[i] = as * ((1 - ab) * cs[i] + ab * mixed[i]) + ab * cb[i] * (1 - as);
  out[3] = as + ab * (1 - as);
  return out;
}

struct Case {
  Rgb cb{}, cs{};
  double ab = 1, as = 1;
};

// Corners and edges of the formulas first, then random colours with random alpha.
std::vector<Case> cases() {
  std::vector<Case> list;
  const double edges[] = {0, 0.25, 0.5, 0.75, 1};
  for (const double b : edges)
    for (const double s : edges)
      for (const double ab : {0.0, 0.5, 1.0})
        for (const double as : {0.0, 0.5, 1.0}) list.push_back({{b, 1 - b, 0.5}, {s, s, 1 - s}, ab, as});
  for (std::uint64_t i = 0; i < 400; ++i) {
    const auto r = [&](std::uint64_t k) { return randomUnit(3, i * 8 + k); };
    list.push_back({{r(0), r(1), r(2)}, {r(3), r(4), r(5)}, r(6), r(7)});
  }
  return list;
}

}  // namespace

class TestBlend : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void modes_data();
  void modes();
  void theReferencePathAgrees_data() { modes_data(); }
  void theReferencePathAgrees();
  void namesAreTheStandards();
  void opacityScalesTheSource();
  void neighboursDoNotMatter_data() { modes_data(); }
  void neighboursDoNotMatter();
};

void TestBlend::modes_data() {
  QTest::addColumn<int>("mode");
  for (int m = 0; m < kBlendModes; ++m) QTest::newRow(std::string(blendName(static_cast<BlendMode>(m))).c_str()) << m;
}

void TestBlend::modes() {
  QFETCH(int, mode);
  const auto m = static_cast<BlendMode>(mode);
  const auto list = cases();
  const std::size_t room = (list.size() + 16) * 4;
  test::forEachTarget([&](const char* target) {
    std::vector<float> src(room, 0);
    std::vector<float> dst(room, 0);
    for (std::size_t i = 0; i < list.size(); ++i) {
      for (std::size_t c = 0; c < 3; ++c) {
        src[i * 4 + c] = static_cast<float>(list[i].cs[c] * list[i].as);
        dst[i * 4 + c] = static_cast<float>(list[i].cb[c] * list[i].ab);
      }
      src[i * 4 + 3] = static_cast<float>(list[i].as);
      dst[i * 4 + 3] = static_cast<float>(list[i].ab);
    }
    blendSpan(m, src.data(), 1, dst.data(), static_cast<int>(list.size()));
    for (std::size_t i = 0; i < list.size(); ++i) {
      const auto expected = composed(m, list[i].cb, list[i].ab, list[i].cs, list[i].as);
      for (std::size_t c = 0; c < 4; ++c)
        QVERIFY2(std::abs(dst[i * 4 + c] - expected[c]) < 4e-4, qPrintable(QStringLiteral("%1, case %2, channel %3: %4, not %5")
                                                                               .arg(QLatin1String(target))
                                                                               .arg(i)
                                                                               .arg(c)
                                                                               .arg(dst[i * 4 + c])
                                                                               .arg(expected[c])));
    }
  });
}

void TestBlend::theReferencePathAgrees() {
  QFETCH(int, mode);
  const auto m = static_cast<BlendMode>(mode);
  for (const Case& k : cases()) {
    std::array<double, 4> src{};
    std::array<double, 4> dst{};
    for (std::size_t c = 0; c < 3; ++c) {
      src[c] = k.cs[c] * k.as;
      dst[c] = k.cb[c] * k.ab;
    }
    src[3] = k.as;
    dst[3] = k.ab;
    const auto got = blendReference(m, src, 1, dst);
    const auto expected = composed(m, k.cb, k.ab, k.cs, k.as);
    for (std::size_t c = 0; c < 4; ++c) QVERIFY(std::abs(got[c] - expected[c]) < 1e-6);
  }
}

void TestBlend::namesAreTheStandards() {
  const char* const names[] = {"normal",     "multiply",   "screen",     "overlay",   "darken", "lighten",    "color-dodge", "color-burn",
                               "hard-light", "soft-light", "difference", "exclusion", "hue",    "saturation", "color",       "luminosity"};
  for (int m = 0; m < kBlendModes; ++m) {
    QCOMPARE(blendName(static_cast<BlendMode>(m)), std::string_view(names[m]));
    QCOMPARE(static_cast<int>(*blendFromName(names[m])), m);
  }
  QVERIFY(!blendFromName("glow"));
}

void TestBlend::opacityScalesTheSource() {
  for (int m = 0; m < kBlendModes; ++m) {
    alignas(64) float a[20 * 4] = {0.2f, 0.4f, 0.6f, 0.8f};
    alignas(64) float b[20 * 4] = {0.2f, 0.4f, 0.6f, 0.8f};
    alignas(64) float full[20 * 4] = {0.5f, 0.1f, 0.3f, 1};
    alignas(64) float half[20 * 4] = {0.25f, 0.05f, 0.15f, 0.5f};
    blendSpan(static_cast<BlendMode>(m), full, 0.5f, a, 1);
    blendSpan(static_cast<BlendMode>(m), half, 1, b, 1);
    for (int c = 0; c < 4; ++c) QVERIFY(std::abs(a[c] - b[c]) < 1e-5f);
  }
}

// Pixels that are opaque, nearly so or not, each alone among opaque ones and as they follow each other: the same to the bit.
void TestBlend::neighboursDoNotMatter() {
  QFETCH(int, mode);
  const auto m = static_cast<BlendMode>(mode);
  constexpr int kPixels = 48;
  constexpr std::size_t kRoom = (kPixels + kSpanPadding) * 4;
  const auto filled = [](std::uint64_t seed) {
    std::array<float, kRoom> made{};
    for (std::size_t i = 0; i < kRoom; ++i) {
      constexpr float kAlphas[] = {1, 1, 1 + 1.2e-7F, 1 - 6e-8F, 0.4F, 1, 0};
      const float alpha = kAlphas[static_cast<std::size_t>(randomUnit(seed, i / 4) * 7)];
      made[i] = i % 4 == 3 ? alpha : alpha * static_cast<float>(randomUnit(seed + 1, i));
    }
    return made;
  };
  test::forEachTarget([&](const char* target) {
    for (const float opacity : {1.0F, 0.37F}) {
      const auto src = filled(11);
      const auto before = filled(23);
      auto all = before;
      blendSpan(m, src.data(), opacity, all.data(), kPixels);
      for (std::size_t at = 0; at < std::size_t{kPixels} * 4; at += 4) {
        std::array<float, kRoom> alone;
        alone.fill(1);
        auto onto = alone;
        std::copy_n(src.begin() + static_cast<std::ptrdiff_t>(at), 4, alone.begin());
        std::copy_n(before.begin() + static_cast<std::ptrdiff_t>(at), 4, onto.begin());
        blendSpan(m, alone.data(), opacity, onto.data(), 16);
        QVERIFY2(std::equal(onto.begin(), onto.begin() + 4, all.begin() + static_cast<std::ptrdiff_t>(at)),
                 qPrintable(QStringLiteral("%1, pixel %2").arg(QLatin1String(target)).arg(at / 4)));
      }
    }
  });
}

QTEST_GUILESS_MAIN(TestBlend)
#include "tst_blend.moc"
