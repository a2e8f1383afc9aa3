// Takes the screenshots of the documentation from the running window, with the demo scenes.
#include <QApplication>
#include <QDir>
#include <QElapsedTimer>
#include <QPushButton>
#include <QTest>

#include "sheets/export_sheet.h"
#include "sheets/gallery.h"
#include "widgets/theme.h"
#include "widgets/view.h"
#include "window.h"

using namespace oa::app;

namespace {

void settle(Window& window) {
  QElapsedTimer timer;
  timer.start();
  while (window.renderer().filled() < 1 && timer.elapsed() < 60000) QTest::qWait(30);
  QTest::qWait(900);
}

const oa::Scene& starter(const std::vector<oa::Scene>& scenes, const std::string& name) {
  for (const oa::Scene& scene : scenes)
    if (scene.name == name) return scene;
  return scenes.front();
}

}  // namespace

int main(int argc, char** argv) {
  QApplication application(argc, argv);
  QApplication::setApplicationName(QStringLiteral("Over Again"));
  const QDir out(argc > 1 ? QString::fromLocal8Bit(argv[1]) : QStringLiteral("."));
  QApplication::setStyle(QStringLiteral("Fusion"));
  Theme::apply(application, QStringLiteral("light"));
  const auto scenes = starterScenes();
  const auto save = [&](QWidget& widget, const char* name) { widget.grab().save(out.filePath(QLatin1String(name))); };
  {
    Window window;
    window.resize(1280, 800);
    window.show();
    window.begin(starter(scenes, "Stage screen, evening"));
    window.document().setCurrentLayer(2);
    settle(window);
    window.player().setFrame(78);
    QTest::qWait(200);
    save(window, "main-window.png");
    window.view().setMode(ViewMode::StandIn);
    window.showFrame();
    QTest::qWait(300);
    save(window, "frame-and-stand-in.png");
    window.view().setMode(ViewMode::Seam);
    window.showCheck();
    QTest::qWait(6000);
    save(window, "check-and-seam.png");
    window.view().setMode(ViewMode::Picture);
    window.showExport();
    window.exportSheet().setTarget(QStringLiteral("/home/kelpwick/Videos/stage-screen-evening.mp4"));
    QTest::qWait(300);
    save(window, "export.png");
    window.showRecipe();
    window.begin(starter(scenes, "Sailcloth stripes"));
    window.document().setCurrentLayer(0);
    settle(window);
    save(window, "on-picture-editing.png");
    window.showGallery(true);
    QElapsedTimer timer;
    timer.start();
    while (timer.elapsed() < 5000) QTest::qWait(50);
    save(window, "starters.png");
  }
  Theme::apply(application, QStringLiteral("dark"));
  {
    Window window;
    window.resize(1280, 800);
    window.show();
    window.begin(starter(scenes, "Dusk over the harbour"));
    settle(window);
    save(window, "dark.png");
  }
  return 0;
}
