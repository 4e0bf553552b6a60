using Microsoft.AspNetCore.SignalR;

namespace RootCall.Web.Live;

/// <summary>Tells open windows how far long tasks are. Windows send nothing.</summary>
internal sealed class WorkHub : Hub;
