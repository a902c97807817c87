/// good-curve: the window. good-curve [FILE]

#include "app/look/theme.hpp"
#include "app/shell/graphics.hpp"
#include "app/shell/main_window.hpp"
#include "app/shell/part_files.hpp"
#include "app/shell/start.hpp"

#include <QApplication>
#include <QCommandLineParser>
#include <QMessageBox>
#include <QTimer>

#include <cstdio>
#include <optional>

int main(int argc, char** argv) {
    gc::app::setSurfaceFormat();
    auto needsScreen = std::make_optional<gc::app::NeedsScreen>();
    QApplication app(argc, argv);
    needsScreen.reset();
    gc::app::dressApplication();
    QCommandLineParser parser;
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument(QStringLiteral("file"),
                                 QApplication::translate("main", "a .goodcurve part to open"),
                                 QStringLiteral("[FILE]"));
    const QCommandLineOption dark(QStringLiteral("dark"),
                                  QApplication::translate("main", "start with the dark theme"));
    const QCommandLineOption stage(QStringLiteral("stage"),
                                   QApplication::translate("main", "start in this stage"),
                                   QStringLiteral("stage"));
    parser.addOptions({dark, stage});
    parser.process(app);
    gc::app::setDarkTheme(parser.isSet(dark));
    if (const QString trouble = gc::app::graphicsTrouble(); !trouble.isEmpty()) {
        gc::app::retryInSoftware(argv);
        std::fprintf(stderr, "%s\n", qPrintable(trouble));
        QMessageBox(QMessageBox::NoIcon, QStringLiteral("Good Curve"), trouble).exec();
        return 1;
    }
    gc::app::MainWindow window;
    window.show();
    const QStringList files = parser.positionalArguments();
    const QString asked = parser.value(stage);
    QTimer::singleShot(0, &window, [&window, files, asked] {
        window.files()->begin(files.value(0));
        if (!asked.isEmpty()) window.setStage(asked);
    });
    return QApplication::exec();
}
