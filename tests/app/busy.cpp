// A program that edits, saves and exports without a pause, to be killed by tst_never_lost. The journal's patience is a fortieth of
// the real one, so that what takes seconds there takes a moment here. Each edit makes the loop one frame longer.
#include <QApplication>
#include <QDir>
#include <QTest>
#include <cstdio>
#include <thread>

#include "media/export.h"
#include "model/journal.h"
#include "scene/scene_file.h"
#include "support/scenes.h"

int main(int argc, char** argv) {
  const QCoreApplication application(argc, argv);
  const QString folder = QString::fromLocal8Bit(argv[1]);
  QDir().mkpath(folder);
  oa::app::Document document;
  oa::Scene scene = oa::test::demoScene("dusk.overagain");
  scene.frames = 1;
  document.reset(scene, folder + "/scene.overagain");
  const oa::app::Journal journal(document, oa::app::Journal::folder(), oa::app::Journal::kPatience / 40);
  std::thread exporter([&] {
    oa::Scene loop = oa::test::oneLayer("noise", 64, 36, 4);
    for (;;) {
      oa::ExportSettings settings;
      settings.format = oa::ExportFormat::Gif;
      settings.path = (folder + "/loop.gif").toStdString();
      settings.width = 64;
      settings.height = 36;
      if (!exportScene(loop, settings, {})) std::puts("not exported");
    }
  });
  for (int edit = 2;; ++edit) {
    document.edit("longer", {}, [&](oa::Scene& s) { s.frames = edit; });
    std::printf("edit %d\n", edit);
    std::fflush(stdout);
    if (edit % 61 == 0 && !document.save(document.path())) std::puts("not saved");
    QTest::qWait(20);
  }
}
