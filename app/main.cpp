#include <QApplication>
#include <QCommandLineParser>
#include <QElapsedTimer>
#include <QFileInfo>
#include <QTimer>
#include <csignal>
#include <cstdio>

#include "base/interrupt.h"
#include "sheets/gallery.h"
#include "widgets/theme.h"
#include "widgets/view.h"
#include "window.h"

namespace {

constexpr int kLongestStart = 60000;  // milliseconds

}  // namespace

int main(int argc, char** argv) {
  QElapsedTimer sinceStart;
  sinceStart.start();
  oa::guardStandardDescriptors();
  oa::cleanUpOnInterrupts();
  std::signal(SIGXFSZ, SIG_IGN);
  QApplication application(argc, argv);
  QApplication::setApplicationName(QStringLiteral("Over Again"));
  QApplication::setOrganizationName(QStringLiteral("over-again"));
  QApplication::setApplicationVersion(QStringLiteral(OA_VERSION));
  QCommandLineParser parser;
  parser.setApplicationDescription(QObject::tr("Seamlessly looping animated backgrounds"));
  parser.addHelpOption();
  parser.addVersionOption();
  const QCommandLineOption theme(QStringLiteral("theme"), QObject::tr("light or dark; default: as the desktop"), QStringLiteral("name"));
  const QCommandLineOption shot(QStringLiteral("screenshot"),
                                QObject::tr("save a picture of the window once the loop is rendered, and end"), QStringLiteral("file"));
  const QCommandLineOption timing(QStringLiteral("timing"), QObject::tr("print how long the first picture took, and end"));
  parser.addOptions({theme, shot, timing});
  parser.addPositionalArgument(QStringLiteral("scene"), QObject::tr("scene file to open"), QStringLiteral("[scene]"));
  parser.process(application);
  QApplication::setStyle(QStringLiteral("Fusion"));
  oa::app::Theme::apply(application, parser.value(theme));

  oa::app::Window window;
  const QStringList files = parser.positionalArguments();
  const bool opened = !files.isEmpty() && window.open(files.first());
  if (!opened)
    for (const oa::Scene& scene : oa::app::starterScenes())
      if (scene.name == "Stage screen, evening" || window.document().scene().layers.empty()) window.begin(scene);
  if (parser.isSet(timing))
    QObject::connect(&window.renderer(), &oa::app::RenderService::frameReady, &window, [&] {
      QTimer::singleShot(0, &window, [&] {
        std::printf("%lld ms to the first picture\n", static_cast<long long>(sinceStart.elapsed()));
        std::fflush(stdout);
        QCoreApplication::exit(0);
      });
    });
  if (parser.isSet(timing))
    QTimer::singleShot(kLongestStart, &window, [] {
      std::fprintf(stderr, "over-again: there was no picture within a minute\n");
      QCoreApplication::exit(1);
    });
  window.show();
  if (!parser.isSet(timing) && !parser.isSet(shot)) window.offerRescuedWork();
  QTimer watch;
  if (parser.isSet(shot)) {
    QObject::connect(&watch, &QTimer::timeout, &window, [&] {
      if (window.renderer().filled() < 1) return;
      watch.stop();
      QTimer::singleShot(600, &window, [&] {
        const bool saved = window.grab().save(parser.value(shot));
        QCoreApplication::exit(saved ? 0 : 1);
      });
    });
    watch.start(50);
  }
  return QApplication::exec();
}
