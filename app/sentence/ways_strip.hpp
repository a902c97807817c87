#pragma once
/// \file The ways to say what was picked, side by side on the stand: rules first, the single item later.

#include <QFrame>
#include <QStringList>

#include <functional>

class QHBoxLayout;

namespace gc::app {

class WaysStrip : public QFrame {
    Q_OBJECT
  public:
    explicit WaysStrip(QWidget* parent);

    /// Shows the ways with the first one taken; hides where there is only one.
    void offer(const QStringList& refs, const std::function<QString(const QString&)>& inWords);

  Q_SIGNALS:
    void wayChosen(const QString& was, const QString& now);
    void entered(); ///< the pointer is no longer over the part

  protected:
    void enterEvent(QEnterEvent* e) override;
    bool eventFilter(QObject* watched, QEvent* e) override;

  private:
    void place();

    QHBoxLayout* m_row;
    QString m_taken;
};

} // namespace gc::app
