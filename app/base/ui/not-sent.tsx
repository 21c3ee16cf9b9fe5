/** It was made on this device, or something was done with it there, and the server does not know it yet. */
export const NotSent = () => <span className="tag tag-amber">not sent yet</span>
