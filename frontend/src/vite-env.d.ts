/// <reference types="vite/client" />
declare module "*.woff" {
  const address: string;
  export default address;
}
