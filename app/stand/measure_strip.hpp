#pragma once
/// \file What is measured in the stand: the things that were clicked, what they come to, and what can be done
/// with that: copy it, keep it as a target.

#include "app/link/scene.hpp"

#include <QFrame>

#include <functional>

class QGridLayout;
class QLabel;
class QLineEdit;
class QToolButton;

namespace gc::app {

class MeasureStrip : public QFrame {
    Q_OBJECT
  public:
    explicit MeasureStrip(QWidget* parent);

    /// How picked things are put.
    std::function<QString(const QString&)> inWords = [](const QString& p) { return p; };

    void show(const QStringList& picked, const std::vector<ReadingView>& readings, const QString& fault);
    const std::vector<ReadingView>& readings() const { return m_readings; }
    /// For tests: by the key of the reading.
    QToolButton* copyButton(const QString& key) const;
    QToolButton* keepButton(const QString& key) const;
    QLineEdit* allowedField() const { return m_allowed; }

  Q_SIGNALS:
    void letGo(int picked);
    void pointedAt(int reading); ///< -1: none
    /// \param allowed as it stands in the field
    void kept(const QString& key, const QString& allowed);

  protected:
    bool eventFilter(QObject* o, QEvent* e) override;

  private:
    void clear();
    void addHead(const QStringList& picked);
    void addReading(int row, int index);
    void askAllowed(int index);
    QToolButton* button(const QString& text, const QString& name);
    void place();

    QGridLayout* m_grid;
    std::vector<ReadingView> m_readings;
    QLineEdit* m_allowed = nullptr;
};

/// What a reading is called: "least distance".
QString readingLabel(const QString& key);

} // namespace gc::app
