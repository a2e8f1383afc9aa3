// Palettes: files of every format round trip, hostile ones are refused with their line, pictures give their colours, and a scene
// keeps its lights and darks in other ones.
#include <QDir>
#include <QTemporaryDir>
#include <QTest>
#include <cmath>

#include "base/files.h"
#include "image/colour_clusters.h"
#include "media/palette_file.h"
#include "media/picture_file.h"
#include "media/png.h"
#include "scene/recolour.h"
#include "scene/scene_json.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

Palette sample() {
  return {"Harbour, early", {hexColour(0x0b1a2e), hexColour(0x1f7672), hexColour(0xe9a26b), hexColour(0xffffff), hexColour(0x000000)}};
}

bool sameColour(const Colour& a, const Colour& b) {
  return std::abs(a.r - b.r) < 2e-3f && std::abs(a.g - b.g) < 2e-3f && std::abs(a.b - b.b) < 2e-3f && std::abs(a.a - b.a) < 5e-3f;
}

}  // namespace

class TestPalettes : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void everyFormatRoundTrips_data();
  void everyFormatRoundTrips();
  void filesOfOthersAreRead_data();
  void filesOfOthersAreRead();
  void cssColoursAreThoseOfTheStandard_data();
  void cssColoursAreThoseOfTheStandard();
  void brokenFilesAreNamed_data();
  void brokenFilesAreNamed();
  void anyBytesAreSurvived();
  void ourOwnAreThere();
  void picturesGiveTheirColours();
  void onlyPicturesAreReadAsPictures_data();
  void onlyPicturesAreReadAsPictures();
  void clustersFindWhatThereIs();
  void lightStaysLight();
  void aSceneIsRecolouredWhole();
  void palettesAreSavedWithTheScene();
};

void TestPalettes::everyFormatRoundTrips_data() {
  QTest::addColumn<QString>("name");
  QTest::newRow("GIMP") << "a.gpl";
  QTest::newRow("JASC") << "a.pal";
  QTest::newRow("CSS") << "a.css";
  QTest::newRow("hex") << "a.hex";
}

void TestPalettes::everyFormatRoundTrips() {
  QFETCH(QString, name);
  const QTemporaryDir folder;
  const std::string path = folder.filePath(name).toStdString();
  QVERIFY(writePalette(path, sample()).has_value());
  const auto again = readPalette(path);
  QVERIFY2(again.has_value(), again ? "" : again.error().sentence().c_str());
  QVERIFY(again->colours == sample().colours);
  QCOMPARE(QString::fromStdString(again->name),
           name.endsWith(QLatin1String("gpl")) ? QStringLiteral("Harbour, early") : QStringLiteral("a"));
}

void TestPalettes::filesOfOthersAreRead_data() {
  QTest::addColumn<QByteArray>("text");
  QTest::addColumn<QString>("colours");
  QTest::newRow("GIMP without columns, with names and comments")
      << QByteArray("GIMP Palette\nName: Rope\n# from life\n 31 118 114\tLagoon water\n\n255   0   0\n") << "#1f7672 #ff0000";
  QTest::newRow("GIMP with line ends of another system") << QByteArray("GIMP Palette\r\nColumns: 3\r\n1 2 3 x\r\n") << "#010203";
  QTest::newRow("JASC") << QByteArray("JASC-PAL\r\n0100\r\n2\r\n255 255 255\r\n0 0 0\r\n") << "#ffffff #000000";
  QTest::newRow("bare hex lines") << QByteArray("1f7672\nFFCC00\n") << "#1f7672 #ffcc00";
  QTest::newRow("hex in a sentence") << QByteArray("use #123 and #a1b2c3, please") << "#112233 #a1b2c3";
  QTest::newRow("a byte order mark") << QByteArray("\xEF\xBB\xBF#010203\n") << "#010203";
  QTest::newRow("CSS") << QByteArray(":root {\n  --sea: rgb(31, 118, 114);\n  --sun: hsl(45deg 100% 50%);\n  color: tomato;\n}")
                       << "#1f7672 #ffbf00 #ff6347";
  QTest::newRow("a property called like a colour") << QByteArray("red: #0000ff;") << "#0000ff";
}

void TestPalettes::filesOfOthersAreRead() {
  QFETCH(QByteArray, text);
  QFETCH(QString, colours);
  const auto palette = paletteFromText(text.toStdString());
  QVERIFY2(palette.has_value(), palette ? "" : palette.error().sentence().c_str());
  QStringList read;
  for (const Colour& c : palette->colours) read << QString::fromStdString(colourText(c));
  QCOMPARE(read.join(' '), colours);
}

void TestPalettes::cssColoursAreThoseOfTheStandard_data() {
  QTest::addColumn<QString>("text");
  QTest::addColumn<QString>("hex");
  // Examples of CSS Color Level 4.
  QTest::newRow("named") << "rebeccapurple"
                         << "#663399";
  QTest::newRow("in capitals") << "DarkSlateGrey"
                               << "#2f4f4f";
  QTest::newRow("first name") << "aliceblue"
                              << "#f0f8ff";
  QTest::newRow("last name") << "yellowgreen"
                             << "#9acd32";
  QTest::newRow("rgb with commas") << "rgb(255, 0, 51)"
                                   << "#ff0033";
  QTest::newRow("rgb with blanks and alpha") << "rgb(0 255 0 / 50%)"
                                             << "#00ff0080";
  QTest::newRow("percent") << "rgb(100%, 0%, 20%)"
                           << "#ff0033";
  QTest::newRow("hsl lime") << "hsl(120deg 100% 50%)"
                            << "#00ff00";
  QTest::newRow("hsl dark green") << "hsl(120deg 100% 25%)"
                                  << "#008000";
  QTest::newRow("hsl pastel") << "hsl(120, 75%, 85%)"
                              << "#bcf5bc";
  QTest::newRow("hsla") << "hsla(0, 100%, 50%, 0.5)"
                        << "#ff000080";
  // Examples of the standard's own tests (oklab and oklch of CSS Color Level 4).
  QTest::newRow("oklab green") << "oklab(51.975% -0.1403 0.10768)"
                               << "#008000";
  QTest::newRow("oklab rose grey") << "oklab(50% 0.05 0)"
                                   << "#7c5762";
  QTest::newRow("oklab percents") << "oklab(0.5 12.5% 0% / 0.5)"
                                  << "#7c576280";
  QTest::newRow("oklch green") << "oklch(51.975% 0.17686 142.495)"
                               << "#008000";
  QTest::newRow("oklch crimson") << "oklch(50% 50% 0deg)"
                                 << "#b4065f";
  QTest::newRow("oklch far out") << "oklch(100% 1e300 0)"
                                 << "#ff00c8";
  QTest::newRow("beyond its range") << "rgb(300, -20, 0)"
                                    << "#ff0000";
}

void TestPalettes::cssColoursAreThoseOfTheStandard() {
  QFETCH(QString, text);
  QFETCH(QString, hex);
  const auto colour = cssColour(text.toStdString());
  QVERIFY2(colour.has_value(), qPrintable(text));
  QVERIFY2(sameColour(*colour, *parseColour(hex.toStdString())), colourText(*colour).c_str());
  for (const char* bad :
       {"", "sea", "rgb()", "rgb(1,2)", "rgb(1,2,3,4,5)", "rgb(a,b,c)", "hsl(1 2", "oklab(1 2)", "oklch(red 0 0)", "#12", "#gggggg"})
    QVERIFY(!cssColour(bad));
}

void TestPalettes::brokenFilesAreNamed_data() {
  QTest::addColumn<QByteArray>("text");
  QTest::addColumn<QString>("says");
  QTest::newRow("nothing") << QByteArray() << "holds no colours";
  QTest::newRow("a picture's bytes") << QByteArray("\x89PNG\0\0#abc red", 14) << "is not text";
  QTest::newRow("prose") << QByteArray("the quick brow fox") << "holds no colours";
  QTest::newRow("a GIMP line with letters") << QByteArray("GIMP Palette\n#\n1 2 x\n") << "line 3";
  QTest::newRow("a channel too large") << QByteArray("GIMP Palette\n1 2 256\n") << "line 2";
  QTest::newRow("half a number") << QByteArray("GIMP Palette\n1 2 2.5\n") << "line 2";
  QTest::newRow("JASC of another version") << QByteArray("JASC-PAL\n0200\n1\n1 2 3\n") << "unknown version";
  QTest::newRow("JASC cut short") << QByteArray("JASC-PAL\n0100\n3\n1 2 3\n") << "";
  QTest::newRow("JASC with too many") << QByteArray("JASC-PAL\n0100\n1000000000\n1 2 3\n") << "more than 256";
  QTest::newRow("too many colours") << QByteArray("#123456\n").repeated(257) << "more than 256";
}

void TestPalettes::brokenFilesAreNamed() {
  QFETCH(QByteArray, text);
  QFETCH(QString, says);
  const auto palette = paletteFromText(text.toStdString());
  QVERIFY(!palette);
  QVERIFY2(QString::fromStdString(palette.error().sentence()).contains(says), palette.error().sentence().c_str());
  const QTemporaryDir folder;
  const std::string path = folder.filePath(QStringLiteral("broken.gpl")).toStdString();
  QVERIFY(writeFileAtomically(path, text.toStdString()).has_value());
  const auto read = readPalette(path);
  QVERIFY(!read && read.error().where == path);
  QVERIFY(!readPalette(folder.filePath(QStringLiteral("missing.gpl")).toStdString()));
}

void TestPalettes::anyBytesAreSurvived() {
  // Files cut and stirred from good ones: no crash, and never more colours than allowed.
  const std::string good[] = {paletteToText(sample(), PaletteFormat::Gimp), paletteToText(sample(), PaletteFormat::Jasc),
                              paletteToText(sample(), PaletteFormat::Css), "rgb(1 2 3) hsl(1 2% 3%) #abc tomato"};
  std::uint32_t state = 1;
  const auto random = [&](std::size_t n) {
    state = state * 1664525u + 1013904223u;
    return static_cast<std::size_t>(state >> 8) % n;
  };
  int readable = 0;
  for (int round = 0; round < 4000; ++round) {
    std::string text = good[random(4)];
    for (std::size_t i = random(6); i > 0; --i) text[random(text.size())] = static_cast<char>(random(256));
    text.erase(text.size() - random(text.size()));
    const auto palette = paletteFromText(text);
    if (palette) {
      ++readable;
      QVERIFY(!palette->colours.empty() && palette->colours.size() <= kMaxPaletteColours);
    }
  }
  QVERIFY(readable > 500);
}

void TestPalettes::ourOwnAreThere() {
  const QDir folder(QStringLiteral(OA_SOURCE_DIR "/demo-data/palettes"));
  const auto files = folder.entryList({QStringLiteral("*.gpl")});
  QVERIFY(files.size() >= 16);
  for (const QString& file : files) {
    const auto palette = readPalette(folder.filePath(file).toStdString());
    QVERIFY2(palette.has_value() && palette->colours.size() >= 5 && !palette->name.empty(), qPrintable(file));
    // As this program would write it, so that they stay readable in its own form.
    QVERIFY(*paletteFromText(paletteToText(*palette, PaletteFormat::Gimp)) == *palette);
    double low = 1;
    double high = 0;
    for (const Colour& c : palette->colours) {
      low = std::min(low, toOkLab(c).L);
      high = std::max(high, toOkLab(c).L);
    }
    QVERIFY2(high - low > 0.35, qPrintable(file));  // words need a ground to stand out from
  }
}

void TestPalettes::picturesGiveTheirColours() {
  // Three stripes of colour, as a PNG file.
  Frame8 frame;
  frame.width = 90;
  frame.height = 40;
  const unsigned stripes[3] = {0x12324a, 0xe08a55, 0xf3ead2};
  for (int y = 0; y < 40; ++y)
    for (int x = 0; x < 90; ++x) {
      const unsigned c = stripes[x / 30];
      for (const int shift : {16, 8, 0}) frame.rgba.push_back(static_cast<std::uint8_t>(c >> shift & 255));
      frame.rgba.push_back(255);
    }
  const QTemporaryDir folder;
  const std::string path = folder.filePath(QStringLiteral("stripes.png")).toStdString();
  QVERIFY(writeFileAtomically(path, *encodePng(frame, false)).has_value());
  const auto palette = paletteFromPicture(path, 3);
  QVERIFY2(palette.has_value(), palette ? "" : palette.error().sentence().c_str());
  QCOMPARE(palette->name, std::string("stripes"));
  QCOMPARE(palette->colours.size(), std::size_t{3});
  for (int i = 0; i < 3; ++i) QVERIFY(sameColour(palette->colours[static_cast<std::size_t>(i)], hexColour(stripes[i])));
  const auto small = readSmallPicture(path, 45);
  QVERIFY(small && small->width == 45 && small->height == 20);
  // What is no picture is refused with its name.
  const std::string prose = folder.filePath(QStringLiteral("prose.png")).toStdString();
  QVERIFY(writeFileAtomically(prose, "this is no picture").has_value());
  for (const std::string& bad : {prose, folder.filePath(QStringLiteral("none.png")).toStdString()}) {
    const auto refused = paletteFromPicture(bad, 5);
    QVERIFY(!refused && refused.error().where == bad);
  }
}

void TestPalettes::onlyPicturesAreReadAsPictures_data() {
  QTest::addColumn<QByteArray>("bytes");
  QTest::addColumn<QString>("says");
  QTest::newRow("a play list") << QByteArray("#EXTM3U\n#EXTINF:1\nhttp://127.0.0.1:9/a.ts\n") << "is not a picture";
  QTest::newRow("a list of other files") << QByteArray("ffconcat version 1.0\nfile real.png\n") << "is not a picture";
  QTest::newRow("subtitles") << QByteArray("1\n00:00:00,000 --> 00:00:01,000\nwords\n") << "is not a picture";
  QTest::newRow("text art") << QByteArray("\x1b[31mred\x1b[0m\n") << "is not a picture";
  QTest::newRow("a clip") << QByteArray(
                                 "\0\0\0\x18"
                                 "ftypmp42\0\0\0\0mp42isom",
                                 24)
                          << "is a damaged or unfinished MP4 file";
  QTest::newRow("a PNG cut off") << QByteArray("\x89PNG\r\n\x1a\n\0\0\0\rIHDR", 16) << "is a damaged or unfinished PNG picture";
  QTest::newRow("a GIF of nothing") << QByteArray("GIF89a") << "is a damaged or unfinished GIF picture";
  QTest::newRow("a JPEG of nothing") << QByteArray("\xff\xd8\xff\xe0 nothing") << "is a damaged or unfinished JPEG picture";
}

void TestPalettes::onlyPicturesAreReadAsPictures() {
  QFETCH(QByteArray, bytes);
  QFETCH(QString, says);
  const QTemporaryDir folder;
  // What it names is there, and would be read if anything followed names.
  Frame8 frame{4, 4, std::vector<std::uint8_t>(64, 200)};
  QVERIFY(writeFileAtomically(folder.filePath("real.png").toStdString(), *encodePng(frame, false)).has_value());
  const std::string path = folder.filePath("looks-like.png").toStdString();
  QVERIFY(writeFileAtomically(path, bytes.toStdString()).has_value());
  const auto read = readSmallPicture(path, 16);
  QVERIFY(!read);
  QVERIFY2(QString::fromStdString(read.error().message).contains(says), read.error().message.c_str());
  // A drawing that shows another file shows nothing.
  const std::string drawing = folder.filePath("drawing.svg").toStdString();
  QVERIFY(writeFileAtomically(
              drawing, "<svg xmlns='http://www.w3.org/2000/svg' width='9' height='9'><image width='9' height='9' href='real.png'/></svg>")
              .has_value());
  QVERIFY(paletteFromPicture(drawing, 5).error().message.find("transparent") != std::string::npos);
  // And a picture is read under any ending.
  const std::string renamed = folder.filePath("picture.txt").toStdString();
  QVERIFY(writeFileAtomically(renamed, *encodePng(frame, false)).has_value());
  QVERIFY(isPicture(renamed) && readSmallPicture(renamed, 16).has_value());
}

void TestPalettes::clustersFindWhatThereIs() {
  std::vector<Colour> pixels;
  const Colour found[4] = {hexColour(0x101820), hexColour(0xc8323a), hexColour(0x1c5fa8), hexColour(0xf4f1e6)};
  for (int i = 0; i < 400; ++i) {
    Colour c = found[i % 4];
    c.g += static_cast<float>((i / 4 % 5) - 2) * 0.004f;
    pixels.push_back(c);
  }
  const auto four = mainColours(pixels, 4);
  QCOMPARE(four.size(), std::size_t{4});
  for (const Colour& c : found) QVERIFY(sameColour(four[nearestColour(four, c)], c));
  // Dark to light, always the same, and no more than there are.
  for (std::size_t i = 1; i < four.size(); ++i) QVERIFY(toOkLab(four[i]).L >= toOkLab(four[i - 1]).L);
  QVERIFY(mainColours(pixels, 4) == four);
  QCOMPARE(mainColours(std::vector<Colour>(50, found[1]), 6).size(), std::size_t{1});
  QVERIFY(mainColours({}, 4).empty() && mainColours({{1, 0, 0, 0}}, 4).empty());
}

void TestPalettes::lightStaysLight() {
  const std::vector<Colour> from{hexColour(0xffffff), hexColour(0x000000), hexColour(0x808080)};
  const std::vector<Colour> to{hexColour(0xe9a26b), hexColour(0x0b1a2e), hexColour(0x7a5a63), hexColour(0xf7d9a8), hexColour(0x16324a)};
  const auto matched = matchedColours(from, to);
  QVERIFY(matched[0] == to[3] && matched[1] == to[1] && matched[2] == to[2]);
  // More colours than the palette has: between its own, still in order.
  std::vector<Colour> many;
  for (int i = 0; i < 12; ++i) many.push_back({static_cast<float>(i) / 11, static_cast<float>(i) / 11, static_cast<float>(i) / 11, 0.5f});
  const auto shades = matchedColours(many, to);
  for (std::size_t i = 1; i < shades.size(); ++i) QVERIFY(toOkLab(shades[i]).L >= toOkLab(shades[i - 1]).L - 1e-6);
  QCOMPARE(shades[3].a, 0.5f);
  QVERIFY(matchedColours(from, {}) == from && matchedColours({}, to).empty());
}

void TestPalettes::aSceneIsRecolouredWhole() {
  for (const auto& path : test::demoScenePaths()) {
    const Scene scene = test::demoScene(path.substr(path.rfind('/') + 1));
    const Palette palette{"two", {hexColour(0x102030), hexColour(0xf0e0d0)}};
    const Scene other = recoloured(scene, palette);
    QVERIFY(other.palette == palette);
    const auto before = coloursOf(scene);
    const auto after = coloursOf(other);
    QVERIFY(!before.empty());
    // Every colour lies on the way between the two.
    for (const Colour& c : after) {
      const OkLab lab = toOkLab(c);
      const OkLab a = toOkLab(palette.colours[0]);
      const OkLab b = toOkLab(palette.colours[1]);
      const double share = (lab.L - a.L) / (b.L - a.L);
      QVERIFY(share > -0.01 && share < 1.01 && std::abs(lab.a - mix(a.a, b.a, share)) < 0.01 &&
              std::abs(lab.b - mix(a.b, b.b, share)) < 0.01);
    }
    // Nothing but colours differs.
    Scene plain = other;
    const auto list = matchedColours(before, before);
    QCOMPARE(list.size(), before.size());
    plain.palette = scene.palette;
    std::vector<Colour> originals;
    Scene copy = scene;
    eachColour(copy, [&](Colour& c) { originals.push_back(c); });
    std::size_t i = 0;
    eachColour(plain, [&](Colour& c) { c = originals[i++]; });
    QVERIFY(plain == scene);
  }
}

void TestPalettes::palettesAreSavedWithTheScene() {
  Scene scene = test::oneLayer("flat");
  scene.palette = sample();
  const auto again = sceneFromText(sceneToText(scene));
  QVERIFY(again && again->palette == sample());
  const auto bad = sceneFromText(R"({"overagain":1,"palette":{"colours":["#123","nothing"]}})");
  QVERIFY(!bad);
  QCOMPARE(bad.error().where, std::string("palette.colours[1]"));
  QVERIFY(!sceneFromText(R"({"overagain":1,"palette":7})"));
}

QTEST_GUILESS_MAIN(TestPalettes)
#include "tst_palettes.moc"
