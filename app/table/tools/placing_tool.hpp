#pragma once
/// \file What tools share that draw by places clicked one after the other: offers, and places that are typed.

#include "app/table/tools/tool.hpp"
#include "core/sketch/offer.hpp"

namespace gc::app {

class PlacingTool : public TableTool {
  public:
    using TableTool::TableTool;

    void look(QPointF pointer, Qt::KeyboardModifiers keys) override;
    bool dropDraft() override;
    bool takesPlaces() const override { return true; }
    std::optional<Vec2> lastPlace() const override;
    std::optional<Vec2> offeredPlace() const override { return m_offer.at; }
    void typedPlace(Vec2 at, const std::string& length) override;

  protected:
    /// What the next click could lean on.
    virtual OfferQuestion question() const { return {}; }
    /// Puts an offer's relations into the drawing. \return the point that the new one was joined to, or 0
    static int landed(Drawing& d, int newPoint, int newLine, const Offer& offer);
    void paintOffer(QPainter& p) const;

    Offer m_offer;
    std::vector<Offer> m_draft;
    std::string m_typedLength; ///< the length that the next place was typed with
};

} // namespace gc::app
