using RootCall.Web.Features.Arrivals;
using RootCall.Web.Features.Audit;
using RootCall.Web.Features.Bench;
using RootCall.Web.Features.Compare;
using RootCall.Web.Features.Crossing;
using RootCall.Web.Features.Folders;
using RootCall.Web.Features.Ledger;
using RootCall.Web.Features.Many;
using RootCall.Web.Features.Muster;
using RootCall.Web.Features.Pictures;
using RootCall.Web.Features.Roots;
using RootCall.Web.Features.Scenes;
using RootCall.Web.Features.SendOff;
using RootCall.Web.Features.Transfer;
using RootCall.Web.Features.Work;

namespace RootCall.Web.Features;

/// <summary>All endpoints, a folder a feature.</summary>
internal static class Api
{
    public static void MapAll(WebApplication app)
    {
        var api = app.MapGroup("/api");
        api.MapScenes();
        api.MapShelf();
        api.MapArrivals();
        api.MapTransfer();
        api.MapMuster();
        api.MapMusterActs();
        api.MapRoots();
        api.MapAdded();
        api.MapLedger();
        api.MapAudit();
        api.MapHand();
        api.MapHouse();
        api.MapMany();
        api.MapRecipes();
        api.MapCrossing();
        api.MapCrossingFrames();
        api.MapBench();
        api.MapView();
        api.MapCompare();
        api.MapSendOff();
        api.MapWrittenScenes();
        api.MapFolders();
        api.MapWork();
        api.MapPictures();
        api.MapPlanes();
        api.MapSwatches();
        api.MapFrames();
        api.MapColours();
    }
}
