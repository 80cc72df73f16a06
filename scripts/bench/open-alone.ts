import type { IfcAPI } from 'web-ifc';

/** What web-ifc needs by itself to open a file and hand out every mesh. */
export function openAlone(api: IfcAPI, bytes: Uint8Array): void {
  const model = api.OpenModel(bytes);
  api.StreamAllMeshes(model, (mesh) => {
    for (let i = 0; i < mesh.geometries.size(); i++) {
      const geometry = api.GetGeometry(model, mesh.geometries.get(i).geometryExpressID);
      api.GetVertexArray(geometry.GetVertexData(), geometry.GetVertexDataSize());
      api.GetIndexArray(geometry.GetIndexData(), geometry.GetIndexDataSize());
      geometry.delete();
    }
  });
  api.CloseModel(model);
}
